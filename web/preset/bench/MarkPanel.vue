<script setup lang="ts">
import { computed } from 'vue';
import { AMONG_MAX, DEFAULT_RULE, type ToneChoice } from '#core/contract/preset';
import { allowedTones } from '#core/readability/choice';
import { useTones } from '../../mark/useTones.ts';
import { useDraft } from '../draft.ts';
import { useLibrary } from '../../app/library.ts';
import SplitMark from '../../mark/SplitMark.vue';
import BenchPanel from '../../ui/BenchPanel.vue';

/** The mark and its tone: one for all photos, or for each the one that reads best there. */
const draft = useDraft();
const library = useLibrary();
const tones = useTones();

const choices = computed(() =>
  library.marks.filter((mark) => !mark.retired || mark.id === draft.mark?.id),
);
const chosen = computed(() => allowedTones(draft.rule));
const isAuto = computed(() => draft.rule.tone.rule === 'auto');
const ownColour = computed(
  () => chosen.value.find((tone) => !tones.value.some((option) => option.tone === tone)) ?? null,
);

/** Fixed: this tone. Automatic: in or out of those that are chosen from, of which one must stay. */
function choose(next: ToneChoice): void {
  const { tone } = draft.rule;
  if (tone.rule === 'fixed') {
    draft.change({ tone: { rule: 'fixed', tone: next } });
    return;
  }
  const without = tone.among.filter((some) => some !== next);
  const among = without.length < tone.among.length ? without : [...without, next];
  if (among.length > 0 && among.length <= AMONG_MAX)
    draft.change({ tone: { rule: 'auto', among } });
}

function toggleAuto(): void {
  const tone = isAuto.value
    ? ({ rule: 'fixed', tone: chosen.value[0] } as const)
    : DEFAULT_RULE.tone;
  draft.change({ tone });
}

function chooseMark(event: Event): void {
  draft.chooseMark(Number((event.target as HTMLSelectElement).value));
}

function mix(event: Event): void {
  const next = (event.target as HTMLInputElement).value as ToneChoice;
  const { tone } = draft.rule;
  if (tone.rule === 'fixed') draft.change({ tone: { rule: 'fixed', tone: next } });
  else {
    const among = [...tone.among.filter((some) => some !== ownColour.value), next];
    draft.change({ tone: { rule: 'auto', among: among.slice(-AMONG_MAX) } });
  }
}
</script>

<template>
  <BenchPanel title="Mark">
    <template #end>
      <RouterLink v-if="choices.length === 0" to="/marks">Add a mark</RouterLink>
      <span v-else-if="draft.target" :title="draft.mark?.name">{{ draft.mark?.name }}</span>
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
    <SplitMark v-if="draft.mark" class="picture" :mark="draft.mark" :tone="chosen[0]" />
    <div class="tones" :role="isAuto ? 'group' : 'radiogroup'" aria-label="Tone">
      <button
        v-for="option in tones"
        :key="option.tone"
        type="button"
        :role="isAuto ? 'checkbox' : 'radio'"
        class="tone"
        :aria-checked="chosen.includes(option.tone)"
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
    <label class="auto" title="Each photo gets the tone that reads best on it">
      <input class="form-check-input" type="checkbox" :checked="isAuto" @change="toggleAuto" />
      <span><span class="wide">whichever </span>reads best</span>
    </label>
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
  height: 46px;
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

.auto {
  align-items: center;
  cursor: pointer;
  display: flex;
  font-size: 0.8125rem;
  gap: 7px;
  white-space: nowrap;
}

@media (max-width: 1160px) {
  .wide {
    display: none;
  }
}

.auto .form-check-input {
  flex: none;
  margin: 0;
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
