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
import NumberField from '../ui/NumberField.vue';

/** Exact numbers for the chosen layer, and how layers stand to each other. */
const desk = useDesk();

const MOST_UNITS = 100_000;
const LEAST_SIDE = 0.5;
const SIDES: readonly { side: Side; label: string; icon: typeof IconLeft }[] = [
  { side: 'left', label: 'Left edges', icon: IconLeft },
  { side: 'centre', label: 'Centres, sideways', icon: IconCentre },
  { side: 'right', label: 'Right edges', icon: IconRight },
  { side: 'top', label: 'Top edges', icon: IconTop },
  { side: 'middle', label: 'Middles, upright', icon: IconMiddle },
  { side: 'bottom', label: 'Bottom edges', icon: IconBottom },
];

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
    <template #end>{{ frame ? 'a mark is about 1,000 long' : '' }}</template>
    <div v-if="frame" class="numbers">
      <label>
        <span class="quiet">across</span>
        <NumberField
          label="Middle, across"
          :model-value="frame.centre.x"
          :min="-MOST_UNITS"
          :max="MOST_UNITS"
          @update:model-value="move('x', $event)"
        />
      </label>
      <label>
        <span class="quiet">down</span>
        <NumberField
          label="Middle, down"
          :model-value="frame.centre.y"
          :min="-MOST_UNITS"
          :max="MOST_UNITS"
          @update:model-value="move('y', $event)"
        />
      </label>
      <label>
        <span class="quiet">turn</span>
        <NumberField
          label="Turn"
          unit="°"
          :model-value="frame.turn"
          :min="-360"
          :max="360"
          @update:model-value="set('Turn', { turn: $event })"
        />
      </label>
      <label>
        <span class="quiet">width</span>
        <NumberField
          label="Width"
          :model-value="frame.width"
          :min="LEAST_SIDE"
          :max="MOST_UNITS"
          @update:model-value="size('width', $event)"
        />
      </label>
      <label>
        <span class="quiet">height</span>
        <NumberField
          label="Height"
          :model-value="frame.height"
          :min="LEAST_SIDE"
          :max="MOST_UNITS"
          @update:model-value="size('height', $event)"
        />
      </label>
    </div>
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
        type="button"
        title="Same gaps, sideways"
        aria-label="Same gaps, sideways"
        :disabled="desk.chosen.value.size < 3"
        @click="distribute('x')"
      >
        <IconAcross />
      </button>
      <button
        type="button"
        title="Same gaps, downwards"
        aria-label="Same gaps, downwards"
        :disabled="desk.chosen.value.size < 3"
        @click="distribute('y')"
      >
        <IconDown />
      </button>
    </div>
  </BenchPanel>
</template>

<style scoped>
.numbers {
  display: grid;
  gap: 4px 10px;
  grid-template-columns: repeat(3, minmax(0, 1fr));
}

.numbers label {
  display: grid;
  font-size: 0.8125rem;
}

.numbers :deep(.field) {
  width: 100%;
}

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

  .numbers {
    gap: 4px 6px;
  }
}

.aligns button:hover:enabled {
  background: var(--lc-paper-deep);
}

.aligns button:disabled {
  color: #a9b1b3;
}
</style>
