<script setup lang="ts">
import { useFileDialog } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import { brightAndDark } from '#core/batch/samplePhotos';
import type { PresetView } from '#core/contract/http';
import EmptyState from '../ui/EmptyState.vue';
import PickOne from '../ui/PickOne.vue';
import PresetCard from './PresetCard.vue';
import { usePresetFiles } from './usePresetFiles.ts';
import { useSamplePhotos } from './useSamplePhotos.ts';
import { useIntake } from '../batch/useIntake.ts';
import { useDropTarget } from '../ui/windowDrop.ts';
import { useLibrary } from '../app/library.ts';

const library = useLibrary();
const { photos: samples, isLoaded } = useSamplePhotos();
const files = usePresetFiles();

const ORDERS = [
  { value: 'own', label: 'my order', title: 'Drag them into an order of your own' },
  { value: 'used', label: 'most used' },
  { value: 'starred', label: 'favourites' },
] as const;
type Order = (typeof ORDERS)[number]['value'];
const order = ref<Order>('own');

const listed = computed(() => {
  switch (order.value) {
    case 'used':
      return [...library.presets].sort(
        (a, b) => b.uses - a.uses || (b.usedAt ?? '').localeCompare(a.usedAt ?? ''),
      );
    case 'starred':
      return library.presets.filter(({ favourite }) => favourite);
    default:
      return library.presets;
  }
});
/** What a drag moves about; it follows the library in between. */
const shown = shallowRef<PresetView[]>([]);
watch(listed, (now) => (shown.value = [...now]), { immediate: true });

function keepOrder(): void {
  library.orderPresets(shown.value.map(({ id }) => id));
}

function move(preset: PresetView, by: 1 | -1): void {
  const at = shown.value.indexOf(preset);
  const to = at + by;
  if (to < 0 || to >= shown.value.length) return;
  const next = [...shown.value];
  next.splice(at, 1);
  next.splice(to, 0, preset);
  shown.value = next;
  keepOrder();
}

const dialog = useFileDialog({ accept: '.json,application/json', multiple: true });
dialog.onChange((chosen) => {
  if (chosen) void files.read([...chosen]);
});

const { takeFiles } = useIntake();
useDropTarget({
  says: 'Bring in presets, or make a batch of photos',
  take: (dropped) => {
    const presets = dropped.files.filter(({ name }) => /\.json$/i.test(name));
    const others = dropped.files.filter((file) => !presets.includes(file));
    if (presets.length > 0) void files.read(presets);
    if (others.length > 0) void takeFiles({ ...dropped, files: others });
  },
});

/** All cards show the same two photos, so that only the presets differ. */
const photos = computed(() => brightAndDark(samples.value));
</script>

<template>
  <div class="page">
    <header class="page-head">
      <h1>Presets</h1>
      <span class="quiet">A rule that puts a mark on any photo</span>
      <span class="end">
        <PickOne
          v-if="library.presets.length > 1"
          label="Order"
          :options="ORDERS"
          :model-value="order"
          @update:model-value="order = $event"
        />
        <button
          class="btn btn-outline-secondary"
          type="button"
          title="Or drop preset files anywhere on this page"
          @click="dialog.open()"
        >
          Bring in files
        </button>
        <RouterLink v-if="library.marks.length > 0" class="btn btn-primary" to="/presets/0">
          New preset
        </RouterLink>
      </span>
    </header>
    <EmptyState
      v-if="library.presets.length === 0"
      title="No presets yet"
      :text="
        library.marks.length > 0
          ? 'Place a mark on a batch, or start here, and save it under a name that says what it is. Preset files can be dropped here.'
          : 'A preset needs a mark. Add one first.'
      "
    >
      <RouterLink v-if="library.marks.length > 0" class="btn btn-outline-secondary" to="/presets/0"
        >Start one</RouterLink
      >
      <RouterLink v-else class="btn btn-outline-secondary" to="/marks">Add a mark</RouterLink>
    </EmptyState>
    <EmptyState
      v-else-if="shown.length === 0"
      title="No favourites yet"
      text="The star on a card makes a preset a favourite."
    />
    <VueDraggable
      v-else-if="isLoaded"
      v-model="shown"
      class="grid d-grid gap-4"
      handle=".grip"
      :animation="140"
      :disabled="order !== 'own'"
      @end="keepOrder"
    >
      <PresetCard
        v-for="preset in shown"
        :key="preset.id"
        :preset="preset"
        :photos="photos"
        :is-movable="order === 'own' && shown.length > 1"
        @move="move(preset, $event)"
      />
    </VueDraggable>
  </div>
</template>

<style scoped>
.grid {
  grid-template-columns: repeat(auto-fill, minmax(min(300px, 100%), 1fr));
}
</style>
