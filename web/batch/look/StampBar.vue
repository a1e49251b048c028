<script setup lang="ts">
import { computed } from 'vue';
import { STAMP_SCALE_MAX, STAMP_SCALE_MIN, type Stamp } from '#core/contract/adjustment';
import { ANGLE_MAX_DEG } from '#core/contract/preset';
import { useDraft } from '../../preset/draft.ts';
import NumberField from '../../ui/NumberField.vue';

/** The stamps of a photo: which one is in hand, its size and angle in numbers, and away with it. */
const props = defineProps<{ photoId: number }>();
const chosen = defineModel<number | null>({ required: true });

const draft = useDraft();
const stamps = computed<readonly Stamp[]>(() => draft.adjustments.get(props.photoId)?.stamps ?? []);
const stamp = computed(() => (chosen.value === null ? null : (stamps.value[chosen.value] ?? null)));

function set(part: Partial<Stamp>): void {
  const next = stamps.value.map((some, at) => (at === chosen.value ? { ...some, ...part } : some));
  draft.adjust([props.photoId], { stamps: next });
}

function remove(): void {
  const next = stamps.value.filter((_, at) => at !== chosen.value);
  chosen.value = null;
  if (next.length > 0) draft.adjust([props.photoId], { stamps: next });
  else draft.takeBack([props.photoId], 'stamps');
}
</script>

<template>
  <div v-if="stamps.length > 0" class="bar" role="group" aria-label="Stamps">
    <button
      v-for="(_, index) in stamps"
      :key="index"
      class="which number rounded-circle p-0"
      type="button"
      :aria-pressed="index === chosen"
      :aria-label="`Stamp ${index + 1}`"
      @click="chosen = index === chosen ? null : index"
    >
      {{ index + 1 }}
    </button>
    <template v-if="stamp">
      <span class="quiet">size</span>
      <NumberField
        label="Size of the stamp, %"
        :model-value="stamp.scale * 100"
        :min="STAMP_SCALE_MIN * 100"
        :max="STAMP_SCALE_MAX * 100"
        :step="1"
        @update:model-value="set({ scale: $event / 100 })"
      />
      <span class="quiet">%, angle</span>
      <NumberField
        label="Angle of the stamp, degrees"
        :model-value="stamp.rotation"
        :min="-ANGLE_MAX_DEG"
        :max="ANGLE_MAX_DEG"
        :step="1"
        @update:model-value="set({ rotation: $event })"
      />
      <span class="quiet">°</span>
      <button class="btn btn-link" type="button" @click="remove">Take away</button>
    </template>
    <span v-else class="quiet">stamps: choose one, or drag it</span>
  </div>
</template>

<style scoped>
.bar {
  align-items: center;
  background: var(--lc-card);
  border-radius: 18px;
  box-shadow: var(--lc-lift);
  color: var(--lc-ink);
  display: flex;
  font-size: 0.8125rem;
  gap: 6px;
  padding: 4px 14px;
  white-space: nowrap;
}

.bar :deep(.field) {
  width: 56px;
}

.which {
  background: var(--lc-paper);
  border: 1px solid var(--lc-hairline);
  color: var(--lc-ink);
  height: 24px;
  width: 24px;
}

.which[aria-pressed='true'] {
  background: var(--lc-ink);
  border-color: var(--lc-ink);
  color: var(--lc-card);
}

.btn {
  font-size: inherit;
  padding: 2px 4px;
}
</style>
