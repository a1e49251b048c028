<script setup lang="ts">
import { SURROUNDS, type Surround } from '#core/contract/settings';
import { useLibrary } from './library.ts';
import PickOne from '../ui/PickOne.vue';

/** What photos are judged against. */
const OPTIONS = SURROUNDS.map((surround) => ({ value: surround, label: surround }));
const library = useLibrary();

function choose(surround: Surround): void {
  library.changeSettings({ surround });
}
</script>

<template>
  <PickOne
    label="Surround"
    :options="OPTIONS"
    :model-value="library.settings.surround"
    @update:model-value="choose"
  />
</template>
