<script setup lang="ts">
import { useFileDialog } from '@vueuse/core';
import { ref, shallowRef } from 'vue';
import type { BundleView } from '#core/contract/http';
import { api } from '../api/client.ts';
import { useNotices } from '../app/notices.ts';
import PackDialog from './PackDialog.vue';
import TakeDialog from './TakeDialog.vue';

/** Marks, presets and deliveries as one file, to another computer or from one. */
const notices = useNotices();
const isPacking = ref(false);
const isReading = ref(false);
const looked = shallowRef<BundleView | null>(null);
const isTaking = ref(false);

const dialog = useFileDialog({ accept: '.zip,application/zip', multiple: false, reset: true });
dialog.onChange((files) => void look(files?.item(0) ?? null));

async function look(file: File | null): Promise<void> {
  if (!file) return;
  isReading.value = true;
  await notices.attempt(async () => {
    looked.value = await api.post<BundleView>('/bundles', file);
    isTaking.value = true;
  });
  isReading.value = false;
}
</script>

<template>
  <section class="card-plain part" aria-label="Bundles">
    <h2>Bundles</h2>
    <p class="quiet m-0">
      Chosen marks, presets and deliveries as one file, for another computer or a colleague.
    </p>
    <div class="d-flex flex-wrap gap-2">
      <button class="btn btn-outline-secondary" type="button" @click="isPacking = true">
        Pack a bundle
      </button>
      <button
        class="btn btn-outline-secondary"
        type="button"
        :disabled="isReading"
        @click="dialog.open()"
      >
        {{ isReading ? 'Reading …' : 'Take one in' }}
      </button>
    </div>
    <PackDialog v-model="isPacking" />
    <TakeDialog v-if="looked" v-model="isTaking" :bundle="looked" />
  </section>
</template>

<style scoped>
.part {
  display: grid;
  gap: 10px;
}
</style>
