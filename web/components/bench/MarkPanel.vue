<script setup lang="ts">
import { computed } from 'vue';
import type { ToneChoice } from '#core/contract/preset';
import { useTones } from '../../composables/useTones.ts';
import { useDraft } from '../../stores/draft.ts';
import { useLibrary } from '../../stores/library.ts';
import SplitMark from '../SplitMark.vue';
import BenchPanel from './BenchPanel.vue';

const draft = useDraft();
const library = useLibrary();
const tones = useTones();

const choices = computed(() =>
  library.marks.filter((mark) => !mark.retired || mark.id === draft.mark?.id),
);
const tone = computed(() => draft.rule.tone.tone);
const ownColour = computed(() =>
  tones.value.some((option) => option.tone === tone.value) ? null : tone.value,
);

function choose(next: ToneChoice): void {
  draft.change({ tone: { rule: 'fixed', tone: next } });
}

function chooseMark(event: Event): void {
  draft.chooseMark(Number((event.target as HTMLSelectElement).value));
}

function mix(event: Event): void {
  choose((event.target as HTMLInputElement).value as ToneChoice);
}
</script>

<template>
  <BenchPanel title="Mark">
    <template #end>
      <RouterLink v-if="choices.length === 0" to="/marks">Add a mark</RouterLink>
      <select
        v-else
        class="pick"
        aria-label="Mark"
        :value="draft.mark?.id ?? ''"
        @change="chooseMark"
      >
        <option v-for="mark in choices" :key="mark.id" :value="mark.id">{{ mark.name }}</option>
      </select>
    </template>
    <SplitMark v-if="draft.mark" class="picture" :mark="draft.mark" :tone="tone" />
    <div class="tones" role="radiogroup" aria-label="Tone">
      <button
        v-for="option in tones"
        :key="option.tone"
        type="button"
        role="radio"
        class="tone"
        :aria-checked="option.tone === tone"
        :aria-label="option.label"
        :title="option.label"
        :style="{ background: option.swatch }"
        @click="choose(option.tone)"
      />
      <label
        class="tone own"
        :class="{ on: ownColour }"
        title="Any colour"
        :style="ownColour ? { background: ownColour } : {}"
      >
        <input type="color" aria-label="Any colour" :value="ownColour ?? '#8f6220'" @input="mix" />
        <span v-if="!ownColour" aria-hidden="true">+</span>
      </label>
    </div>
  </BenchPanel>
</template>

<style scoped>
.pick {
  background: none;
  border: 0;
  color: var(--lc-ink-quiet);
  cursor: pointer;
  max-width: 100%;
  padding: 0;
  text-align: right;
  text-overflow: ellipsis;
}

.picture {
  height: 62px;
}

.tones {
  display: flex;
  flex-wrap: wrap;
  gap: 7px;
  padding: 3px;
}

.tone {
  border: 1px solid #b9b09a;
  border-radius: 50%;
  height: 23px;
  padding: 0;
  position: relative;
  width: 23px;
}

.tone[aria-checked='true'],
.tone.on {
  box-shadow:
    0 0 0 2px var(--lc-paper),
    0 0 0 4px var(--lc-brass-light);
}

.own {
  align-items: center;
  border-style: dashed;
  color: var(--lc-ink-quiet);
  display: flex;
  justify-content: center;
  line-height: 1;
}

.own:focus-within {
  outline: 2px solid var(--lc-brass-light);
  outline-offset: 2px;
}

.own input {
  cursor: pointer;
  inset: 0;
  opacity: 0;
  position: absolute;
}
</style>
