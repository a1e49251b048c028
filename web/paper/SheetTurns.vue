<script setup lang="ts">
import IconTurnLeft from '~icons/tabler/rotate-2';
import IconTurnRight from '~icons/tabler/rotate-clockwise-2';
import { LIFT_RANGES } from '#core/contract/lift';
import NumberField from '../ui/NumberField.vue';
import type { Lift } from './useLift.ts';

/** Turns the sheet: by quarters, and finely. */
defineProps<{ lift: Lift }>();

const TURNS = [
  { quarters: 3, label: 'Turn left', icon: IconTurnLeft },
  { quarters: 1, label: 'Turn right', icon: IconTurnRight },
] as const;
</script>

<template>
  <span class="turns align-items-center d-flex ms-auto">
    <button
      v-for="{ quarters, label, icon } in TURNS"
      :key="label"
      type="button"
      class="turn"
      :title="label"
      :aria-label="label"
      @click="lift.turn(quarters)"
    >
      <component :is="icon" aria-hidden="true" />
    </button>
    <NumberField
      :model-value="lift.settings.value.angle"
      label="Fine angle"
      unit="°"
      :min="-LIFT_RANGES.angleDeg"
      :max="LIFT_RANGES.angleDeg"
      :step="0.1"
      @update:model-value="lift.reframe({ angle: $event })"
    />
  </span>
</template>

<style scoped>
.turns {
  gap: 2px;
}

.turn {
  background: none;
  border: 0;
  border-radius: 3px;
  color: inherit;
  font-size: 1.1rem;
  line-height: 1;
  padding: 4px 6px;
}

@media (max-width: 1160px) {
  .turns :deep(.field) {
    width: 58px;
  }
}

.turn:hover {
  background: rgb(20 48 61 / 10%);
}

.turn svg {
  height: 1em;
  width: 1em;
}
</style>
