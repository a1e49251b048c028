<script setup lang="ts">
import IconLeft from '~icons/tabler/layout-align-left';
import IconCentre from '~icons/tabler/layout-align-center';
import IconRight from '~icons/tabler/layout-align-right';
import IconTop from '~icons/tabler/layout-align-top';
import IconMiddle from '~icons/tabler/layout-align-middle';
import IconBottom from '~icons/tabler/layout-align-bottom';
import IconAcross from '~icons/tabler/layout-distribute-vertical';
import IconDown from '~icons/tabler/layout-distribute-horizontal';
import { computed } from 'vue';
import { aligned, spread, type Side } from '#core/design/edit';
import { layerFrame, withFrame, type LayerFrame } from '#core/design/frame';
import { useDesk } from './useDesk.ts';
import BenchPanel from '../ui/BenchPanel.vue';
import FieldRows from '../ui/FieldRows.vue';
import type { FieldSpec } from '../ui/fields.ts';

/** Exact numbers for the chosen layer, and how layers stand to each other. */
const desk = useDesk();

const MOST_UNITS = 100_000;
const LEAST_SIDE = 0.5;
const SIDES: readonly { side: Side; label: string; icon: typeof IconLeft }[] = [
  { side: 'left', label: 'Left edges', icon: IconLeft },
  { side: 'centre', label: 'Centres in one column', icon: IconCentre },
  { side: 'right', label: 'Right edges', icon: IconRight },
  { side: 'top', label: 'Top edges', icon: IconTop },
  { side: 'middle', label: 'Middles in one row', icon: IconMiddle },
  { side: 'bottom', label: 'Bottom edges', icon: IconBottom },
];

const GAPS = [
  { axis: 'x', label: 'Same gaps from left to right', icon: IconAcross },
  { axis: 'y', label: 'Same gaps from top to bottom', icon: IconDown },
] as const;

const ANYWHERE = { kind: 'number', from: -MOST_UNITS, to: MOST_UNITS } as const;
const SIDE = { kind: 'number', from: LEAST_SIDE, to: MOST_UNITS } as const;
const FIELDS: readonly FieldSpec[] = [
  { ...ANYWHERE, key: 'x', word: 'across', label: 'Middle, across' },
  { ...ANYWHERE, key: 'y', word: 'down', label: 'Middle, down' },
  { kind: 'number', from: -360, to: 360, key: 'turn', word: 'turn', label: 'Turn', unit: '°' },
  { ...SIDE, key: 'width', word: 'width', label: 'Width' },
  { ...SIDE, key: 'height', word: 'height', label: 'Height' },
];
const values = computed(() => ({ ...frame.value, ...frame.value?.centre }));

const frame = computed(() => {
  const { layer } = desk;
  return layer.value ? layerFrame(layer.value, desk.context.value) : null;
});

function set(name: string, part: Partial<LayerFrame>): void {
  const { value: layer } = desk.layer;
  if (!layer || !frame.value) return;
  desk.changeLayer(name, withFrame(layer, { ...frame.value, ...part }, desk.context.value));
}

function move(axis: 'x' | 'y', value: number): void {
  if (frame.value) set('Move', { centre: { ...frame.value.centre, [axis]: value } });
}

/** Proportions are kept; a shape's sides are its own. */
function size(side: 'width' | 'height', value: number): void {
  if (!frame.value) return;
  if (desk.layer.value?.kind === 'shape') return set('Size', { [side]: value });
  const factor = value / frame.value[side];
  set('Size', { width: frame.value.width * factor, height: frame.value.height * factor });
}

function change(key: string, value: unknown): void {
  const number = Number(value);
  if (key === 'x' || key === 'y') move(key, number);
  else if (key === 'turn') set('Turn', { turn: number });
  else size(key === 'width' ? 'width' : 'height', number);
}

function align(side: Side): void {
  const { design, chosen, context } = desk;
  desk.change('Align', aligned(design.value, chosen.value, side, context.value));
}

function distribute(axis: 'x' | 'y'): void {
  const { design, chosen, context } = desk;
  desk.change('Spread', spread(design.value, chosen.value, axis, context.value));
}
</script>

<template>
  <BenchPanel title="Place">
    <template #end>{{ frame ? '1,000 is as long as the mark' : '' }}</template>
    <FieldRows v-if="frame" layout="columns" :fields="FIELDS" :values="values" @change="change" />
    <div class="aligns" role="group" aria-label="Align and spread">
      <button
        v-for="{ side, label, icon } in SIDES"
        :key="side"
        type="button"
        :title="label"
        :aria-label="label"
        :disabled="desk.chosen.value.size === 0"
        @click="align(side)"
      >
        <component :is="icon" />
      </button>
      <button
        v-for="{ axis, label, icon } in GAPS"
        :key="axis"
        type="button"
        :title="label"
        :aria-label="label"
        :disabled="desk.chosen.value.size < 3"
        @click="distribute(axis)"
      >
        <component :is="icon" />
      </button>
    </div>
  </BenchPanel>
</template>

<style scoped>
.aligns {
  display: flex;
  gap: 1px;
  margin: auto -5px 0;
}

.aligns button {
  background: none;
  border: 0;
  border-radius: 3px;
  color: var(--lc-ink);
  display: flex;
  font-size: 1.05rem;
  padding: 5px;
}

@media (max-width: 1160px) {
  .aligns button {
    font-size: 0.95rem;
    padding-inline: 3px;
  }
}

.aligns button:hover:enabled {
  background: var(--lc-paper-deep);
}

.aligns button:disabled {
  color: #a9b1b3;
}
</style>
