<script setup lang="ts">
import { computed } from 'vue';
import IconVerified from '~icons/tabler/circle-check';
import IconDoubtful from '~icons/tabler/alert-circle';
import type { RunItemView } from '#core/contract/http';
import ReadingSign from '../readability/ReadingSign.vue';
import { CLASS_WORDS } from '../readability/readingText.ts';

/** How the mark of an output reads, and whether the file was found good when it was opened again. */
const props = defineProps<{ item: RunItemView }>();

const verified = computed(() => {
  const { readBack } = props.item;
  if (!readBack) return null;
  return readBack.problem === null
    ? { isGood: true, text: 'Verified: opened again, and as it was to be written' }
    : { isGood: false, text: `Not verified: ${readBack.problem}` };
});
</script>

<template>
  <span class="signs d-inline-flex align-items-center gap-1">
    <span v-if="item.readability" role="img" :aria-label="CLASS_WORDS[item.readability.class]">
      <ReadingSign :kind="item.readability.class" />
    </span>
    <span
      v-if="verified"
      class="d-inline-flex"
      :class="{ doubtful: !verified.isGood }"
      role="img"
      :aria-label="verified.text"
      :title="verified.text"
      :data-verified="verified.isGood"
    >
      <IconVerified v-if="verified.isGood" /><IconDoubtful v-else />
    </span>
  </span>
</template>

<style scoped>
.signs {
  flex: none;
  font-size: 15px;
}

.doubtful {
  color: var(--lc-lost);
}
</style>
