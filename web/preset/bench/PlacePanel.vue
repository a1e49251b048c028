<script setup lang="ts">
import { computed } from 'vue';
import type { Size } from '#core/placement/geometry';
import { ANCHOR_WORDS } from '#core/placement/suggestName';
import BenchPanel from '../../ui/BenchPanel.vue';
import { counted } from '../../ui/format.ts';
import { useDraft } from '../draft.ts';
import InsetFields from './InsetFields.vue';
import PlacePlan from './PlacePlan.vue';

/** Where the mark stands, and what happens where it would not be clear there. */
defineProps<{ frame: Size; isHelpOpen: boolean }>();
defineEmits<{ help: [] }>();
const draft = useDraft();

const helpText = computed(() => {
  const { fallbacks, rescue } = draft.rule;
  const places = fallbacks.length > 0 ? [counted(fallbacks.length, 'place')] : [];
  const helps = rescue === 'none' ? places : [...places, rescue];
  return helps.length > 0 ? `else ${helps.join(', ')}` : 'if unclear: leave it';
});
</script>

<template>
  <BenchPanel title="Place" :summary="ANCHOR_WORDS[draft.rule.anchor]">
    <template #end>
      <span>{{ ANCHOR_WORDS[draft.rule.anchor] }}</span>,
      <button
        class="btn btn-link help"
        type="button"
        :aria-expanded="isHelpOpen"
        title="What happens where the mark would not be clear"
        @click="$emit('help')"
      >
        {{ helpText }}
      </button>
    </template>
    <div class="line align-items-center d-flex">
      <PlacePlan :frame="frame" />
      <InsetFields :frame="frame" />
    </div>
  </BenchPanel>
</template>

<style scoped>
.help {
  font-size: inherit;
  padding: 0;
  text-decoration: underline dotted 1px var(--lc-brass-light);
  text-underline-offset: 3px;
  vertical-align: baseline;
}

.line {
  gap: 14px;
}
</style>
