<script setup lang="ts">
import { computed } from 'vue';
import { AMONG_MAX, DEFAULT_RULE, type ToneChoice } from '#core/contract/preset';
import { allowedTones } from '#core/readability/choice';
import { useTones } from '../../mark/useTones.ts';
import { useDraft } from '../draft.ts';
import { useLibrary } from '../../app/library.ts';
import SplitMark from '../../mark/SplitMark.vue';
import BenchPanel from '../../ui/BenchPanel.vue';
import SwatchRow from '../../ui/SwatchRow.vue';
import ToggleField from '../../ui/ToggleField.vue';

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
  () => chosen.value.find((tone) => !tones.value.some((option) => option.value === tone)) ?? null,
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

function mix(next: ToneChoice): void {
  const { tone } = draft.rule;
  if (tone.rule === 'fixed') draft.change({ tone: { rule: 'fixed', tone: next } });
  else {
    const among = [...tone.among.filter((some) => some !== ownColour.value), next];
    draft.change({ tone: { rule: 'auto', among: among.slice(-AMONG_MAX) } });
  }
}
</script>

<template>
  <BenchPanel title="Mark" :summary="draft.mark?.name">
    <template #end>
      <RouterLink v-if="choices.length === 0" to="/marks">Add a mark</RouterLink>
      <span v-else-if="draft.target" :title="draft.mark?.name">{{ draft.mark?.name }}</span>
      <select
        v-else
        class="pick bg-transparent border-0 mw-100 p-0 text-end"
        aria-label="Mark"
        :value="draft.mark?.id ?? ''"
        @change="chooseMark"
      >
        <option v-for="mark in choices" :key="mark.id" :value="mark.id">{{ mark.name }}</option>
      </select>
    </template>
    <SplitMark v-if="draft.mark" class="picture" :mark="draft.mark" :tone="chosen[0]" />
    <SwatchRow
      label="Tone"
      :options="tones"
      :chosen="chosen"
      :several="isAuto"
      has-other
      @choose="choose"
      @other="mix($event as ToneChoice)"
    />
    <ToggleField
      label="reads best"
      title="Each photo gets the tone that reads best on it"
      :model-value="isAuto"
      @update:model-value="toggleAuto"
    >
      <span class="wide">whichever </span>reads best
    </ToggleField>
  </BenchPanel>
</template>

<style scoped>
.pick {
  color: var(--lc-ink-quiet);
  cursor: pointer;
  text-overflow: ellipsis;
}

.picture {
  height: 46px;
}

@media (max-width: 1160px) {
  .wide {
    display: none;
  }
}
</style>
