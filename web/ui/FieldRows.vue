<script setup lang="ts">
import NumberField from './NumberField.vue';
import PickOne from './PickOne.vue';
import RangeField from './RangeField.vue';
import ToggleField from './ToggleField.vue';
import type { FieldSpec, NumberSpec } from './fields.ts';

/**
 * Controls of a table of fields. In a sheet each has its word above it, on a bench beside it. A slot
 * named after a field is its control, or stands behind that.
 */
withDefaults(
  defineProps<{
    fields: readonly FieldSpec[];
    values: Readonly<Record<string, unknown>>;
    layout?: 'sheet' | 'bench' | 'stack' | 'columns';
  }>(),
  { layout: 'sheet' },
);
const emit = defineEmits<{ change: [key: string, value: unknown, field: FieldSpec] }>();

type NumberKind = Extract<FieldSpec, NumberSpec>;

const shown = (field: NumberKind, value: unknown): number => Number(value) * (field.times ?? 1);

function set(field: FieldSpec, value: unknown): void {
  emit('change', field.key, value, field);
}

function setNumber(field: NumberKind, value: number): void {
  set(field, field.times ? value / field.times : value);
}

/** Halves and hundredths are seen where they can be set. */
function decimalsOf({ decimals, step = 1 }: NumberKind): number {
  return decimals ?? (step < 0.1 ? 2 : step < 1 ? 1 : 0);
}
</script>

<template>
  <div class="fields" :class="`as-${layout}`">
    <div
      v-for="field in fields"
      :key="field.key"
      class="field-row"
      :class="{ 'is-toggle': field.kind === 'toggle' }"
    >
      <span v-if="field.kind !== 'toggle' && field.word" class="quiet word text-truncate">{{
        field.word
      }}</span>
      <span class="control align-items-center d-flex">
        <RangeField
          v-if="field.kind === 'range'"
          :label="field.label ?? field.word"
          :model-value="shown(field, values[field.key])"
          :unit="field.unit"
          :from="field.from"
          :to="field.to"
          :min="field.min"
          :max="field.max"
          :step="field.step"
          :decimals="decimalsOf(field)"
          :ticks="field.ticks"
          @update:model-value="setNumber(field, $event)"
        />
        <NumberField
          v-else-if="field.kind === 'number'"
          :label="field.label ?? field.word"
          :model-value="shown(field, values[field.key])"
          :unit="field.unit"
          :min="field.from"
          :max="field.to"
          :step="field.step"
          :decimals="field.decimals"
          @update:model-value="setNumber(field, $event)"
        />
        <PickOne
          v-else-if="field.kind === 'choice'"
          :label="field.label ?? field.word"
          :options="field.options"
          :model-value="String(values[field.key])"
          @update:model-value="set(field, $event)"
        />
        <ToggleField
          v-else-if="field.kind === 'toggle'"
          :label="field.word"
          :model-value="values[field.key] === true"
          @update:model-value="set(field, $event)"
        />
        <slot :name="field.key" />
      </span>
    </div>
  </div>
</template>

<style scoped>
.fields {
  min-width: 0;
}

.word {
  font-size: 0.8125rem;
}

.control {
  min-width: 0;
}

.as-sheet {
  align-items: end;
  display: flex;
  flex-wrap: wrap;
  gap: 10px 26px;
}

.as-sheet .field-row {
  display: grid;
  gap: 1px;
}

.as-sheet .control {
  min-height: 29px;
}

.as-sheet .control :deep(.range) {
  width: 212px;
}

.as-sheet .control :deep(.pick) {
  margin-left: -7px;
}

.as-bench {
  align-items: center;
  display: grid;
  gap: 6px 10px;
  grid-template-columns: auto minmax(0, 1fr);
}

.as-bench .field-row {
  display: contents;
}

.control :deep(.field) {
  flex: none;
}

.as-bench .control :deep(.range) {
  flex: 1;
  min-width: 0;
}

.as-bench .field-row > .control:first-child {
  grid-column: 1 / -1;
}

.as-stack .control :deep(.range) {
  flex: 1;
  min-width: 0;
}

.as-columns {
  display: grid;
  gap: 4px 10px;
  grid-template-columns: repeat(3, minmax(0, 1fr));
}

.as-columns .field-row {
  display: grid;
}

.as-columns :deep(.field) {
  width: 100%;
}

@media (max-width: 1160px) {
  .as-sheet .control :deep(.range) {
    width: 172px;
  }

  .as-columns {
    gap: 4px 6px;
  }
}
</style>
