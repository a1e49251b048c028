<script setup lang="ts">
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { useConflicts } from './conflicts.ts';

/** Two windows changed the same thing: which of the two goes on. */
const conflicts = useConflicts();
</script>

<template>
  <BModal
    v-if="conflicts.open"
    :model-value="true"
    title="Changed in two windows"
    title-tag="h2"
    no-close-on-backdrop
    no-close-on-esc
    no-header-close
    centered
  >
    <p>{{ conflicts.open.text }}</p>
    <p class="quiet">
      Keep what is in this window in its place, or take over what was saved there.
    </p>
    <template #footer>
      <button
        class="btn btn-outline-secondary"
        type="button"
        @click="conflicts.open?.decide('theirs')"
      >
        Take over theirs
      </button>
      <button class="btn btn-primary" type="button" @click="conflicts.open?.decide('mine')">
        Keep mine
      </button>
    </template>
  </BModal>
</template>
