<script setup lang="ts">
import { computed, ref } from 'vue';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import DeliveryCard from './DeliveryCard.vue';
import EmptyState from '../ui/EmptyState.vue';
import { useSamplePhotos } from '../preset/useSamplePhotos.ts';
import { useLibrary } from '../app/library.ts';
import { useNewDelivery } from './useNewDelivery.ts';

const library = useLibrary();
const newDelivery = useNewDelivery();
const { photos } = useSamplePhotos();
const example = computed(() => photos.value[0] ?? null);
const newId = ref<number | null>(null);

async function add(): Promise<void> {
  newId.value = (await newDelivery())?.id ?? null;
}
</script>

<template>
  <div class="page">
    <header class="page-head">
      <h1>Deliveries</h1>
      <span class="quiet">How photos go out. Click a phrase to change it</span>
      <span class="end"><BButton variant="primary" @click="add">New delivery</BButton></span>
    </header>
    <EmptyState
      v-if="library.deliveries.length === 0"
      title="No deliveries yet"
      text="A delivery says what the output files are: size, type, names, folder. It is made once and used for every batch."
    >
      <BButton variant="outline-secondary" @click="add">Make the first</BButton>
    </EmptyState>
    <div class="list">
      <DeliveryCard
        v-for="delivery in library.deliveries"
        :key="delivery.id"
        :delivery="delivery"
        :example="example"
        :is-new="delivery.id === newId"
      />
    </div>
  </div>
</template>

<style scoped>
.list {
  display: grid;
  gap: 20px;
  max-width: 1080px;
}
</style>
