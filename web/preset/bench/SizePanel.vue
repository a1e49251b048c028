<script setup lang="ts">
import { computed } from 'vue';
import { ANGLE_MAX_DEG, SIZE_MAX_PERCENT, SIZE_MAX_PX } from '#core/contract/preset';
import type { SizeBasis } from '#core/contract/preset';
import { sizeByBasis } from '#core/placement/convert';
import type { Size } from '#core/placement/geometry';
import { placeMark } from '#core/placement/placeMark';
import { useDraft } from '../draft.ts';
import FieldRows from '../../ui/FieldRows.vue';
import type { FieldSpec } from '../../ui/fields.ts';
import RangeField from '../../ui/RangeField.vue';
import { aspectOf } from '../../mark/markPicture.ts';
import BenchPanel from '../../ui/BenchPanel.vue';

const props = defineProps<{ frame: Size }>();
const draft = useDraft();

const BASES: readonly { basis: SizeBasis; label: string }[] = [
  { basis: 'long-side', label: 'of the long side' },
  { basis: 'short-side', label: 'of the short side' },
  { basis: 'width', label: 'of the width' },
  { basis: 'height', label: 'of the height' },
  { basis: 'area', label: 'of the area' },
  { basis: 'pixels', label: 'pixels wide' },
  { basis: 'contain', label: 'fits inside' },
  { basis: 'cover', label: 'covers' },
];
const SMALLEST = 0.1;
const LARGE_PX = 1_500;
const ANGLE: FieldSpec = {
  ...{ kind: 'range', key: 'rotation', word: 'angle', label: 'Angle', unit: '°', decimals: 1 },
  ...{ from: -90, to: 90, min: -ANGLE_MAX_DEG, max: ANGLE_MAX_DEG, ticks: [-90, -45, 0, 45, 90] },
};
const PERCENT_TICKS = [0, 25, 50, 75, 100] as const;

const isPixels = computed(() => draft.rule.size.basis === 'pixels');
const aspect = computed(() => (draft.mark ? aspectOf(draft.mark) : 3));
const result = computed(() => {
  const placed = placeMark(props.frame, aspect.value, { ...draft.rule, repeat: null });
  return placed.ok ? placed.value : null;
});
const pixelsText = computed(() => {
  const size = result.value?.copies[0]?.size;
  return size ? `${Math.round(size.width)} × ${Math.round(size.height)} px` : '';
});

function setValue(value: number): void {
  draft.change({ size: { ...draft.rule.size, value: Math.max(SMALLEST, value) } });
}

function setBasis(event: Event): void {
  const basis = (event.target as HTMLSelectElement).value as SizeBasis;
  const { frame } = props;
  const size = sizeByBasis(draft.rule, basis, { frame, aspect: aspect.value, least: SMALLEST });
  draft.change({ size });
}
</script>

<template>
  <BenchPanel title="Size" :summary="`${draft.rule.size.value} ${isPixels ? 'px' : '%'}`">
    <template #end>
      <span
        class="number"
        :title="result?.reduced ? 'Made smaller to fit into the frame' : undefined"
      >
        {{ pixelsText }}<template v-if="result?.reduced">, fitted</template>
      </span>
    </template>
    <RangeField
      label="Size"
      :model-value="draft.rule.size.value"
      :unit="isPixels ? 'px' : '%'"
      :from="0"
      :to="isPixels ? LARGE_PX : 100"
      :min="SMALLEST"
      :max="isPixels ? SIZE_MAX_PX : SIZE_MAX_PERCENT"
      :step="isPixels ? 1 : 0.5"
      :ticks="isPixels ? [] : PERCENT_TICKS"
      @update:model-value="setValue"
    />
    <select
      class="form-select"
      aria-label="Size is measured by"
      :value="draft.rule.size.basis"
      @change="setBasis"
    >
      <option v-for="{ basis, label } in BASES" :key="basis" :value="basis">{{ label }}</option>
    </select>
    <FieldRows
      class="angle"
      layout="bench"
      :fields="[ANGLE]"
      :values="draft.rule"
      @change="(_, value) => draft.change({ rotation: Number(value) })"
    />
  </BenchPanel>
</template>

<style scoped>
/* Without room for both, the exact number stays. */
@media (min-width: 901px) and (max-width: 1160px) {
  .angle :deep(.slider) {
    display: none;
  }

  .angle :deep(.range) {
    justify-content: end;
  }
}
</style>
