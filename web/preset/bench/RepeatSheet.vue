<script setup lang="ts">
import { computed } from 'vue';
import {
  ANGLE_MAX_DEG,
  DEFAULT_REPEAT,
  GAP_MAX_PERCENT,
  type RepeatRule,
} from '#core/contract/preset';
import { useDraft } from '../draft.ts';
import RangeField from '../../ui/RangeField.vue';

/** Rarely used, so it opens above the bench: the mark all over the photo. */
defineEmits<{ close: [] }>();
const draft = useDraft();
const repeat = computed(() => draft.rule.repeat);

function toggle(event: Event): void {
  const isOn = (event.target as HTMLInputElement).checked;
  draft.change({ repeat: isOn ? DEFAULT_REPEAT : null });
}

function set(part: Partial<RepeatRule>): void {
  if (repeat.value) draft.change({ repeat: { ...repeat.value, ...part } });
}
</script>

<template>
  <section class="sheet" aria-label="Repeat">
    <label class="toggle">
      <input class="form-check-input" type="checkbox" :checked="repeat !== null" @change="toggle" />
      Repeat over the whole frame
    </label>
    <template v-if="repeat">
      <label class="part">
        <span class="quiet">gap sideways</span>
        <RangeField
          label="Gap sideways"
          :model-value="repeat.gapX"
          unit="%"
          :from="0"
          :to="300"
          :min="0"
          :max="GAP_MAX_PERCENT"
          @update:model-value="set({ gapX: $event })"
        />
      </label>
      <label class="part">
        <span class="quiet">gap downwards</span>
        <RangeField
          label="Gap downwards"
          :model-value="repeat.gapY"
          unit="%"
          :from="0"
          :to="400"
          :min="0"
          :max="GAP_MAX_PERCENT"
          @update:model-value="set({ gapY: $event })"
        />
      </label>
      <label class="part">
        <span class="quiet">angle of the rows</span>
        <RangeField
          label="Angle of the rows"
          :model-value="repeat.angle"
          unit="°"
          :from="-90"
          :to="90"
          :min="-ANGLE_MAX_DEG"
          :max="ANGLE_MAX_DEG"
          @update:model-value="set({ angle: $event })"
        />
      </label>
      <label class="toggle">
        <input
          class="form-check-input"
          type="checkbox"
          :checked="repeat.stagger"
          @change="set({ stagger: !repeat.stagger })"
        />
        every other row shifted
      </label>
    </template>
    <button class="btn btn-link end" type="button" @click="$emit('close')">Done</button>
  </section>
</template>

<style scoped>
.sheet {
  align-items: end;
  background: var(--lc-paper);
  border-bottom: 1px solid var(--lc-hairline);
  display: flex;
  flex-wrap: wrap;
  gap: 10px 28px;
  padding: 10px 18px;
}

.part {
  display: grid;
  flex: 1 1 200px;
  font-size: 0.8125rem;
  max-width: 260px;
}

.toggle {
  align-items: center;
  display: flex;
  gap: 8px;
  height: 27px;
}

.toggle .form-check-input {
  margin: 0;
}

.end {
  margin-left: auto;
}
</style>
