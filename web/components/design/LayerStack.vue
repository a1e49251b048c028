<script setup lang="ts">
import IconEye from '~icons/tabler/eye';
import IconEyeOff from '~icons/tabler/eye-off';
import IconLock from '~icons/tabler/lock';
import IconLockOpen from '~icons/tabler/lock-open';
import IconGrip from '~icons/tabler/grip-vertical';
import { computed, ref } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import type { Layer } from '#core/contract/design';
import { duplicated, grouped, inOrder, without } from '#core/design/edit';
import { newLayerId, useDesk } from '../../composables/design/useDesk.ts';
import AddLayer from './AddLayer.vue';
import LayerThumb from './LayerThumb.vue';

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

function set(layer: Layer, name: string, part: Partial<Pick<Layer, 'hidden' | 'locked'>>): void {
  desk.changeLayer(name, { ...layer, ...part });
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
      class="cards"
      handle=".grip"
      :animation="140"
      @start="desk.settle()"
    >
      <li
        v-for="(layer, index) in cards"
        :key="layer.id"
        :class="{
          chosen: desk.chosen.value.has(layer.id),
          hidden: layer.hidden,
          above: isInGroup(index, -1),
          below: isInGroup(index, 1),
          grouped: layer.group,
        }"
      >
        <span class="grip" aria-hidden="true"><IconGrip /></span>
        <button
          type="button"
          class="card-name"
          :aria-pressed="desk.chosen.value.has(layer.id)"
          :title="layer.name"
          @click="choose($event, layer.id)"
          @keydown.alt.up.prevent="shift(layer, 1)"
          @keydown.alt.down.prevent="shift(layer, -1)"
        >
          <LayerThumb :layer="layer" />
          <span class="name">{{ layer.name || 'Layer' }}</span>
        </button>
        <span class="toggles" :class="{ on: layer.locked || layer.hidden }">
          <button
            type="button"
            class="toggle"
            :class="{ on: layer.locked }"
            :aria-label="layer.locked ? `Unlock ${layer.name}` : `Lock ${layer.name}`"
            :title="layer.locked ? 'Unlock' : 'Lock'"
            @click="set(layer, layer.locked ? 'Unlock' : 'Lock', { locked: !layer.locked })"
          >
            <IconLock v-if="layer.locked" /><IconLockOpen v-else />
          </button>
          <button
            type="button"
            class="toggle"
            :class="{ on: layer.hidden }"
            :aria-label="layer.hidden ? `Show ${layer.name}` : `Hide ${layer.name}`"
            :title="layer.hidden ? 'Show' : 'Hide'"
            @click="set(layer, layer.hidden ? 'Show' : 'Hide', { hidden: !layer.hidden })"
          >
            <IconEyeOff v-if="layer.hidden" /><IconEye v-else />
          </button>
        </span>
      </li>
    </VueDraggable>
    <div class="acts">
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
  display: flex;
  flex: 1;
  flex-direction: column;
  gap: 5px;
  list-style: none;
  margin: 0 -4px;
  min-height: 0;
  overflow: auto;
  padding: 2px 4px;
}

li {
  align-items: center;
  background: var(--lc-card);
  border: 1px solid var(--lc-hairline);
  border-radius: var(--lc-radius);
  display: flex;
  flex: none;
  position: relative;
}

li.chosen {
  border-color: var(--lc-brass-light);
  box-shadow: inset 3px 0 0 var(--lc-brass-light);
}

li.grouped {
  margin-left: 9px;
}

li.grouped::before {
  border-left: 2px solid var(--lc-ink-quiet);
  content: '';
  inset: 4px auto 4px -7px;
  position: absolute;
}

li.grouped.above::before {
  top: -6px;
}

li.hidden .card-name {
  opacity: 0.45;
}

.grip {
  color: #a49b86;
  cursor: grab;
  display: flex;
  padding: 8px 0 8px 3px;
}

.card-name {
  align-items: center;
  background: none;
  border: 0;
  color: inherit;
  display: flex;
  flex: 1;
  gap: 7px;
  min-width: 0;
  padding: 4px;
  text-align: left;
}

.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.toggles {
  background: var(--lc-card);
  display: flex;
  inset: 1px 1px 1px auto;
  opacity: 0;
  padding: 0 3px;
  position: absolute;
}

li:hover .toggles,
li:focus-within .toggles,
.toggles.on {
  opacity: 1;
}

.toggle {
  align-items: center;
  background: none;
  border: 0;
  color: #8d9aa0;
  display: flex;
  padding: 4px 3px;
}

.toggle:hover,
.toggle.on {
  color: var(--lc-ink);
}

.acts {
  display: flex;
  justify-content: space-between;
  margin-inline: -5px;
}
</style>
