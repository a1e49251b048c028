<script setup lang="ts">
import { computed, ref } from 'vue';
import {
  LETTERING_RANGES,
  LINE_RANGES,
  letteringLineSchema,
  type LayerOf,
  type Lettering,
  type LetteringLine,
} from '#core/contract/design';
import type { PenDrawing } from '#core/contract/pen';
import BenchSheet from '../ui/BenchSheet.vue';
import FieldRows from '../ui/FieldRows.vue';
import type { FieldSpec, NumberSpec } from '../ui/fields.ts';
import PenDialog from './PenDialog.vue';
import { useDesk } from './useDesk.ts';

/** How words are set: spacing, alignment, case, an arc, a line beneath or above. */
const props = defineProps<{ layer: LayerOf<'lettering'> }>();
defineEmits<{ close: [] }>();

const desk = useDesk();
const isDrawing = ref(false);
const lettering = computed(() => props.layer.lettering);
const line = computed(() => lettering.value.line);

/** A slider that shows the usual part of what a number may be. */
function within(
  { least, most }: { least: number; most: number },
  part: NumberSpec,
): NumberSpec & { kind: 'range' } {
  return { kind: 'range', min: least, max: most, decimals: 1, ...part };
}
const words = (...values: string[]) => values.map((value) => ({ value, label: value }));
const { letterSpacing, lineSpacing } = LETTERING_RANGES;

const WORD_FIELDS: readonly FieldSpec[] = [
  {
    ...{ key: 'letterSpacing', word: 'letter spacing', label: 'Letter spacing' },
    ...within(letterSpacing, { unit: '%', from: -10, to: 60, step: 0.5, ticks: [0] }),
  },
  {
    ...{ key: 'lineSpacing', word: 'line spacing', label: 'Line spacing' },
    ...within(lineSpacing, { unit: '×', from: 0.6, to: 2, step: 0.05, decimals: 2, ticks: [1] }),
  },
  {
    ...{ kind: 'range', key: 'arcDeg', word: 'arc', label: 'Arc', unit: '°' },
    ...{ from: -350, to: 350, step: 5, ticks: [-180, 0, 180] },
  },
  {
    ...{ kind: 'choice', key: 'letterCase', word: 'case', label: 'Case' },
    options: [
      { value: 'typed', label: 'as typed' },
      { value: 'capitals', label: 'CAPITALS' },
      { value: 'small', label: 'small' },
    ],
  },
  {
    ...{ kind: 'choice', key: 'align', word: 'alignment', label: 'Alignment' },
    options: words('left', 'centre', 'right'),
  },
  {
    ...{ kind: 'choice', key: 'where', word: 'line', label: 'Line' },
    options: words('none', 'beneath', 'above'),
  },
];
const FORM: FieldSpec = {
  ...{ kind: 'choice', key: 'form', word: 'form', label: 'Form of the line' },
  options: [
    { value: 'straight', label: 'straight' },
    { value: 'tapered', label: 'tapered' },
    { value: 'flourish', label: 'flourish of its own' },
  ],
};
const WEIGHT: FieldSpec = {
  ...{ key: 'weight', word: 'weight', label: 'Line weight' },
  ...within(LINE_RANGES.weight, { unit: '%', from: 0.5, to: 12, step: 0.1 }),
};
const REACH: readonly FieldSpec[] = [
  {
    ...{ key: 'gap', word: 'distance', label: 'Distance of the line' },
    ...within(LINE_RANGES.gap, { unit: '%', from: -20, to: 90 }),
  },
  {
    ...{ key: 'length', word: 'length', label: 'Length of the line' },
    ...within(LINE_RANGES.length, { unit: '%', from: 10, to: 150, ticks: [100] }),
  },
];
const fields = computed(() => {
  if (!line.value) return WORD_FIELDS;
  const isDrawn = line.value.form === 'flourish' && line.value.drawing !== null;
  return [...WORD_FIELDS, FORM, ...(isDrawn ? [] : [WEIGHT]), ...REACH];
});
const values = computed(() => ({
  ...line.value,
  ...lettering.value,
  where: line.value?.where ?? 'none',
}));

function set(key: string, value: unknown, field: FieldSpec): void {
  if (key === 'where')
    return setLine('Line', value === 'none' ? null : ({ where: value } as never));
  const isOfLine = field === FORM || field === WEIGHT || REACH.includes(field);
  if (!isOfLine) return change(field.label ?? field.word, { [key]: value });
  setLine('Line', { [key]: value });
  if (value === 'flourish' && !line.value?.drawing) isDrawing.value = true;
}

function change(name: string, part: Partial<Lettering>): void {
  desk.changeLayer(name, { ...props.layer, lettering: { ...lettering.value, ...part } });
}

function setLine(name: string, part: Partial<LetteringLine> | null): void {
  const before = line.value ?? letteringLineSchema.parse({});
  change(name, { line: part && { ...before, ...part } });
}

function keepFlourish(drawing: PenDrawing): void {
  setLine('Line', { form: 'flourish', drawing });
}
</script>

<template>
  <BenchSheet label="Setting of the words" @close="$emit('close')">
    <FieldRows :fields="fields" :values="values" @change="set">
      <template v-if="line?.form === 'flourish'" #form>
        <button class="btn btn-link py-0" type="button" @click="isDrawing = true">
          {{ line.drawing ? 'Draw again' : 'Draw it' }}
        </button>
      </template>
    </FieldRows>
    <PenDialog
      v-model="isDrawing"
      title="A flourish of your own"
      action="Use it"
      :drawing="line?.drawing ?? null"
      @done="keepFlourish"
    />
  </BenchSheet>
</template>
