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
import { useDesk } from './useDesk.ts';
import PickOne from '../ui/PickOne.vue';
import RangeField from '../ui/RangeField.vue';
import PenDialog from './PenDialog.vue';
import SheetField from '../ui/SheetField.vue';

/** How words are set: spacing, alignment, case, an arc, a line beneath or above. */
const props = defineProps<{ layer: LayerOf<'lettering'> }>();
defineEmits<{ close: [] }>();

const desk = useDesk();
const isDrawing = ref(false);
const lettering = computed(() => props.layer.lettering);
const line = computed(() => lettering.value.line);

const ALIGNS = [
  { value: 'left', label: 'left' },
  { value: 'centre', label: 'centre' },
  { value: 'right', label: 'right' },
] as const;
const CASES = [
  { value: 'typed', label: 'as typed' },
  { value: 'capitals', label: 'CAPITALS' },
  { value: 'small', label: 'small' },
] as const;
const WHERES = [
  { value: 'none', label: 'none' },
  { value: 'beneath', label: 'beneath' },
  { value: 'above', label: 'above' },
] as const;
const FORMS = [
  { value: 'straight', label: 'straight' },
  { value: 'tapered', label: 'tapered' },
  { value: 'flourish', label: 'own flourish' },
] as const;

function set(name: string, part: Partial<Lettering>): void {
  desk.changeLayer(name, { ...props.layer, lettering: { ...lettering.value, ...part } });
}

function setLine(part: Partial<LetteringLine>): void {
  const before = line.value ?? letteringLineSchema.parse({});
  set('Line', { line: { ...before, ...part } });
}

function setWhere(where: (typeof WHERES)[number]['value']): void {
  if (where === 'none') set('Line', { line: null });
  else setLine({ where });
}

function setForm(form: LetteringLine['form']): void {
  setLine({ form });
  if (form === 'flourish' && !line.value?.drawing) isDrawing.value = true;
}

function keepFlourish(drawing: PenDrawing): void {
  setLine({ form: 'flourish', drawing });
}
</script>

<template>
  <section class="sheet" aria-label="Setting of the words">
    <SheetField label="letter spacing">
      <RangeField
        label="Letter spacing"
        :model-value="lettering.letterSpacing"
        unit="%"
        :from="-10"
        :to="60"
        :min="LETTERING_RANGES.letterSpacing.least"
        :max="LETTERING_RANGES.letterSpacing.most"
        :step="0.5"
        :ticks="[0]"
        @update:model-value="set('Letter spacing', { letterSpacing: $event })"
      />
    </SheetField>
    <SheetField label="line spacing">
      <RangeField
        label="Line spacing"
        :model-value="lettering.lineSpacing"
        unit="×"
        :from="0.6"
        :to="2"
        :min="LETTERING_RANGES.lineSpacing.least"
        :max="LETTERING_RANGES.lineSpacing.most"
        :step="0.05"
        :decimals="2"
        :ticks="[1]"
        @update:model-value="set('Line spacing', { lineSpacing: $event })"
      />
    </SheetField>
    <SheetField label="arc">
      <RangeField
        label="Arc"
        :model-value="lettering.arcDeg"
        unit="°"
        :from="-350"
        :to="350"
        :step="5"
        :decimals="0"
        :ticks="[-180, 0, 180]"
        @update:model-value="set('Arc', { arcDeg: $event })"
      />
    </SheetField>
    <SheetField label="case">
      <PickOne
        label="Case"
        :options="CASES"
        :model-value="lettering.letterCase"
        @update:model-value="set('Case', { letterCase: $event })"
      />
    </SheetField>
    <SheetField label="alignment">
      <PickOne
        label="Alignment"
        :options="ALIGNS"
        :model-value="lettering.align"
        @update:model-value="set('Alignment', { align: $event })"
      />
    </SheetField>
    <SheetField label="line">
      <PickOne
        label="Line"
        :options="WHERES"
        :model-value="line?.where ?? 'none'"
        @update:model-value="setWhere"
      />
    </SheetField>
    <template v-if="line">
      <SheetField label="form">
        <PickOne
          label="Form of the line"
          :options="FORMS"
          :model-value="line.form"
          @update:model-value="setForm"
        />
        <button
          v-if="line.form === 'flourish'"
          class="btn btn-link draw"
          type="button"
          @click="isDrawing = true"
        >
          {{ line.drawing ? 'Draw again' : 'Draw it' }}
        </button>
      </SheetField>
      <SheetField v-if="line.form !== 'flourish' || !line.drawing" label="weight">
        <RangeField
          label="Line weight"
          :model-value="line.weight"
          unit="%"
          :from="0.5"
          :to="12"
          :min="LINE_RANGES.weight.least"
          :max="LINE_RANGES.weight.most"
          :step="0.1"
          @update:model-value="setLine({ weight: $event })"
        />
      </SheetField>
      <SheetField label="distance">
        <RangeField
          label="Distance of the line"
          :model-value="line.gap"
          unit="%"
          :from="-20"
          :to="90"
          :min="LINE_RANGES.gap.least"
          :max="LINE_RANGES.gap.most"
          @update:model-value="setLine({ gap: $event })"
        />
      </SheetField>
      <SheetField label="length">
        <RangeField
          label="Length of the line"
          :model-value="line.length"
          unit="%"
          :from="10"
          :to="150"
          :min="LINE_RANGES.length.least"
          :max="LINE_RANGES.length.most"
          :ticks="[100]"
          @update:model-value="setLine({ length: $event })"
        />
      </SheetField>
    </template>
    <button class="btn btn-outline-secondary done" type="button" @click="$emit('close')">
      Done
    </button>
    <PenDialog
      v-model="isDrawing"
      title="A flourish of your own"
      action="Use it"
      :drawing="line?.drawing ?? null"
      @done="keepFlourish"
    />
  </section>
</template>

<style scoped>
.sheet {
  align-items: end;
  background: var(--lc-paper);
  border-bottom: 1px solid var(--lc-hairline);
  display: flex;
  flex-wrap: wrap;
  gap: 10px 26px;
  padding: 10px 18px 12px;
  position: relative;
}

.done {
  margin-left: auto;
}

.draw {
  padding-block: 0;
}
</style>
