<script setup lang="ts">
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { computed, ref, watch } from 'vue';
import type { BundleKind } from '#core/contract/http';
import { useLibrary } from '../app/library.ts';

/** What goes into a bundle. */
const isOpen = defineModel<boolean>({ required: true });

const library = useLibrary();
const TITLES: Readonly<Record<BundleKind, string>> = {
  marks: 'Marks',
  presets: 'Presets',
  deliveries: 'Deliveries',
};
const KINDS = ['marks', 'presets', 'deliveries'] as const;
const chosen = ref<Record<BundleKind, number[]>>({ marks: [], presets: [], deliveries: [] });
watch(isOpen, (open) => {
  if (open) chosen.value = { marks: [], presets: [], deliveries: [] };
});

/** What comes along, since others cannot be without it. */
const along = computed<Record<BundleKind, ReadonlySet<number>>>(() => {
  const presets = new Set<number>();
  for (const id of chosen.value.deliveries) {
    const delivery = library.deliveryOf(id);
    if (!delivery || delivery.presetId === null) continue;
    for (const presetId of [delivery.presetId, ...delivery.overIds]) presets.add(presetId);
  }
  const all = [...presets, ...chosen.value.presets];
  const marks = new Set(all.flatMap((id) => library.presetOf(id)?.markId ?? []));
  return { marks, presets, deliveries: new Set() };
});
const isEmpty = computed(() => KINDS.every((kind) => chosen.value[kind].length === 0));
const address = computed(() => {
  const query = new URLSearchParams(KINDS.map((kind) => [kind, chosen.value[kind].join(',')]));
  return `/api/bundle?${query}`;
});

function toggle(kind: BundleKind, id: number): void {
  const without = chosen.value[kind].filter((some) => some !== id);
  const isIn = without.length < chosen.value[kind].length;
  chosen.value = { ...chosen.value, [kind]: isIn ? without : [...without, id] };
}

function chooseAll(): void {
  const ids = (kind: BundleKind): number[] => library[kind].map(({ id }) => id);
  chosen.value = {
    marks: ids('marks'),
    presets: ids('presets'),
    deliveries: ids('deliveries'),
  };
}
</script>

<template>
  <BModal v-model="isOpen" title-tag="h2" title="Pack a bundle" centered scrollable no-footer>
    <div class="d-grid gap-3">
      <div v-for="kind in KINDS" :key="kind" role="group" :aria-label="TITLES[kind]">
        <h3>{{ TITLES[kind] }}</h3>
        <p v-if="library[kind].length === 0" class="quiet m-0">none</p>
        <label v-for="{ id, name } in library[kind]" :key="id" class="d-flex gap-2">
          <input
            class="form-check-input"
            type="checkbox"
            :checked="chosen[kind].includes(id) || along[kind].has(id)"
            :disabled="along[kind].has(id)"
            @change="toggle(kind, id)"
          />
          <span class="name">{{ name }}</span>
          <span v-if="along[kind].has(id)" class="quiet">comes along</span>
        </label>
      </div>
      <div class="d-flex gap-2 justify-content-end">
        <button class="btn btn-link me-auto" type="button" @click="chooseAll">All of it</button>
        <button class="btn btn-outline-secondary" type="button" @click="isOpen = false">
          Cancel
        </button>
        <a
          class="btn btn-primary"
          :class="{ disabled: isEmpty }"
          :aria-disabled="isEmpty"
          :href="isEmpty ? undefined : address"
          download
          @click="isOpen = isEmpty"
        >
          Pack
        </a>
      </div>
    </div>
  </BModal>
</template>

<style scoped>
h3 {
  font-size: 1rem;
  margin: 0 0 4px;
}

.name {
  overflow-wrap: anywhere;
}
</style>
