<script setup lang="ts">
import { computed, ref } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import type { Layer } from '#core/contract/design';
import { duplicated, grouped, inOrder, without } from '#core/design/edit';
import { newLayerId, useDesk } from './useDesk.ts';
import AddLayer from './AddLayer.vue';
import LayerCard from './LayerCard.vue';

/** The layers as a stack of cards, the topmost first; dragged to reorder. */
const desk = useDesk();
/** Where a run of cards chosen with Shift begins. */
const anchor = ref<string | null>(null);

const cards = computed({
  get: () => [...desk.layers.value].reverse(),
  set: (next: Layer[]) => {
    const order = next.map(({ id }) => id).reverse();
    if (order.join() !== desk.layers.value.map(({ id }) => id).join()) {
      desk.change('Reorder', inOrder(desk.design.value, order));
    }
  },
});

const hasChosen = computed(() => desk.chosen.value.size > 0);
const isGroup = computed(() => {
  const [first, ...rest] = desk.chosenLayers.value;
  return Boolean(first?.group) && rest.every(({ group }) => group === first.group);
});

function choose(event: MouseEvent | KeyboardEvent, id: string): void {
  if (event.shiftKey && anchor.value) chooseRun(anchor.value, id);
  else {
    desk.choose(id, event.ctrlKey || event.metaKey);
    anchor.value = id;
  }
}

function chooseRun(from: string, to: string): void {
  const ids = cards.value.map(({ id }) => id);
  const [a, b] = [ids.indexOf(from), ids.indexOf(to)].sort((x, y) => x - y);
  ids.slice(a, b + 1).forEach((id, index) => desk.choose(id, index > 0));
}

function duplicate(): void {
  const { design, copies } = duplicated(desk.design.value, desk.chosen.value, newLayerId);
  desk.change('Duplicate', design);
  desk.chosen.value = copies;
}

function remove(): void {
  desk.change('Delete', without(desk.design.value, desk.chosen.value));
  desk.chooseNothing();
}

function group(): void {
  const id = isGroup.value ? null : newLayerId();
  desk.change(id ? 'Group' : 'Ungroup', grouped(desk.design.value, desk.chosen.value, id));
}

/** A card moves by keys, too. */
function shift(layer: Layer, by: 1 | -1): void {
  const ids = desk.layers.value.map(({ id }) => id);
  const from = ids.indexOf(layer.id);
  const to = from + by;
  if (to < 0 || to >= ids.length) return;
  [ids[from], ids[to]] = [ids[to], ids[from]];
  desk.change('Reorder', inOrder(desk.design.value, ids));
}

/** Cards of one group hang together. */
function isInGroup(index: number, side: 1 | -1): boolean {
  const here = cards.value[index].group;
  return here !== null && cards.value[index + side]?.group === here;
}
</script>

<template>
  <aside class="stack" aria-label="Layers">
    <AddLayer />
    <button
      type="button"
      class="whole"
      :class="{ chosen: desk.isWhole.value }"
      :aria-pressed="desk.isWhole.value"
      @click="desk.chooseWhole()"
    >
      The whole mark
    </button>
    <VueDraggable
      v-model="cards"
      tag="ul"
      class="cards d-flex flex-column overflow-auto"
      handle=".grip"
      :animation="140"
      @start="desk.settle()"
    >
      <LayerCard
        v-for="(layer, index) in cards"
        :key="layer.id"
        :layer="layer"
        :chosen="desk.chosen.value.has(layer.id)"
        :hangs-above="isInGroup(index, -1)"
        @choose="choose($event, layer.id)"
        @shift="shift(layer, $event)"
      />
    </VueDraggable>
    <div class="acts d-flex justify-content-between">
      <button type="button" class="btn btn-link" :disabled="!hasChosen" @click="duplicate">
        Duplicate
      </button>
      <button
        type="button"
        class="btn btn-link"
        :disabled="desk.chosen.value.size < 2"
        @click="group"
      >
        {{ isGroup ? 'Ungroup' : 'Group' }}
      </button>
      <button type="button" class="btn btn-link" :disabled="!hasChosen" @click="remove">
        Delete
      </button>
    </div>
  </aside>
</template>

<style scoped>
.stack {
  background: var(--lc-paper);
  border-right: 1px solid var(--lc-hairline);
  color: var(--lc-ink);
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
  padding: 12px;
}

.whole {
  background: none;
  border: 1px solid transparent;
  border-radius: var(--lc-radius);
  color: var(--lc-ink-quiet);
  padding: 5px 9px;
  text-align: left;
}

.whole:hover {
  color: var(--lc-ink);
}

.whole.chosen {
  background: var(--lc-card);
  border-color: var(--lc-brass-light);
  color: var(--lc-ink);
}

.cards {
  flex: 1;
  gap: 5px;
  list-style: none;
  margin: 0 -4px;
  min-height: 0;
  padding: 2px 4px;
}

.acts {
  margin-inline: -5px;
}
</style>
