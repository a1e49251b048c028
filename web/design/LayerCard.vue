<script setup lang="ts">
import IconEye from '~icons/tabler/eye';
import IconEyeOff from '~icons/tabler/eye-off';
import IconGrip from '~icons/tabler/grip-vertical';
import IconLock from '~icons/tabler/lock';
import IconLockOpen from '~icons/tabler/lock-open';
import type { Layer } from '#core/contract/design';
import { useDesk } from './useDesk.ts';
import LayerThumb from './LayerThumb.vue';

/** A layer in the stack: what it looks like, its name, whether it is locked or hidden. */
const props = defineProps<{
  layer: Layer;
  chosen: boolean;
  /** The card above belongs to the same group. */
  hangsAbove: boolean;
}>();
defineEmits<{ choose: [event: MouseEvent]; shift: [by: 1 | -1] }>();
const desk = useDesk();

function set(name: string, part: Partial<Pick<Layer, 'hidden' | 'locked'>>): void {
  desk.changeLayer(name, { ...props.layer, ...part });
}
</script>

<template>
  <li
    :class="{
      chosen,
      hidden: layer.hidden,
      above: hangsAbove,
      grouped: layer.group,
    }"
  >
    <span class="grip" aria-hidden="true"><IconGrip /></span>
    <button
      type="button"
      class="card-name align-items-center bg-transparent border-0 d-flex p-1 text-start"
      :aria-pressed="chosen"
      :title="layer.name"
      @click="$emit('choose', $event)"
      @keydown.alt.up.prevent="$emit('shift', 1)"
      @keydown.alt.down.prevent="$emit('shift', -1)"
    >
      <LayerThumb :layer="layer" />
      <span class="name text-truncate">{{ layer.name || 'Layer' }}</span>
    </button>
    <span class="toggles d-flex position-absolute" :class="{ on: layer.locked || layer.hidden }">
      <button
        type="button"
        class="toggle align-items-center bg-transparent border-0 d-flex"
        :class="{ on: layer.locked }"
        :aria-label="layer.locked ? `Unlock ${layer.name}` : `Lock ${layer.name}`"
        :title="layer.locked ? 'Unlock' : 'Lock'"
        @click="set(layer.locked ? 'Unlock' : 'Lock', { locked: !layer.locked })"
      >
        <IconLock v-if="layer.locked" /><IconLockOpen v-else />
      </button>
      <button
        type="button"
        class="toggle align-items-center bg-transparent border-0 d-flex"
        :class="{ on: layer.hidden }"
        :aria-label="layer.hidden ? `Show ${layer.name}` : `Hide ${layer.name}`"
        :title="layer.hidden ? 'Show' : 'Hide'"
        @click="set(layer.hidden ? 'Show' : 'Hide', { hidden: !layer.hidden })"
      >
        <IconEyeOff v-if="layer.hidden" /><IconEye v-else />
      </button>
    </span>
  </li>
</template>

<style scoped>
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
  color: inherit;
  flex: 1;
  gap: 7px;
  min-width: 0;
}

.toggles {
  background: var(--lc-card);
  inset: 1px 1px 1px auto;
  opacity: 0;
  padding: 0 3px;
}

li:hover .toggles,
li:focus-within .toggles,
.toggles.on {
  opacity: 1;
}

.toggle {
  color: #8d9aa0;
  padding: 4px 3px;
}

.toggle:hover,
.toggle.on {
  color: var(--lc-ink);
}

@media (hover: none) {
  .toggles {
    opacity: 1;
  }
}
</style>
