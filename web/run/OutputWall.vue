<script setup lang="ts">
import { computed } from 'vue';
import type { RunItemView } from '#core/contract/http';
import { bytesText } from '../ui/format.ts';
import OutputSigns from './OutputSigns.vue';
import JustifiedWall from '../ui/JustifiedWall.vue';

/** Finished outputs, as they are on disk, with their bytes before and after. */
const props = defineProps<{
  items: readonly RunItemView[];
  /** Ids of those that are not where they were written. */
  away: ReadonlySet<number>;
}>();
defineEmits<{ look: [item: RunItemView] }>();

const ROW_HEIGHT_PX = 190;
/** The bytes stand below a photo: on it, they would hide a mark somewhere. */
const CAPTION_PX = 20;
const shaped = computed(() =>
  props.items.map((output) => ({ output, ...(output.frame ?? { width: 3, height: 2 }) })),
);
</script>

<template>
  <JustifiedWall
    v-slot="{ box }"
    testid="outputs"
    :items="shaped"
    :item-key="({ output }: { output: RunItemView }) => output.id"
    :row-height="() => ROW_HEIGHT_PX"
    :caption-px="CAPTION_PX"
  >
    <button
      type="button"
      class="output bg-transparent border-0"
      :title="`${box.item.output.outputName}: open at 100 %`"
      :disabled="away.has(box.item.output.id)"
      :style="{ width: `${box.width}px`, height: `${box.height + CAPTION_PX}px` }"
      @click="$emit('look', box.item.output)"
    >
      <span
        v-if="away.has(box.item.output.id)"
        class="gone align-items-center d-flex justify-content-center"
        :style="{ height: `${box.height}px` }"
        >{{ box.item.output.outputName }} is not there any more</span
      >
      <img
        v-else
        :src="`/api/outputs/${box.item.output.id}/tile`"
        :alt="box.item.output.outputName ?? ''"
        :style="{ height: `${box.height}px` }"
      />
      <span class="bytes number d-flex align-items-center text-nowrap">
        <span class="text-truncate"
          >{{ bytesText(box.item.output.bytesBefore ?? 0) }} →
          {{ bytesText(box.item.output.bytesAfter ?? 0) }}</span
        >
        <OutputSigns v-if="!away.has(box.item.output.id)" class="ms-auto" :item="box.item.output" />
      </span>
    </button>
  </JustifiedWall>
</template>

<style scoped>
.output {
  color: var(--lc-on-surround);
  overflow: hidden;
  padding: 0;
}

.output:focus-visible {
  z-index: 1;
}

.gone {
  background: rgb(0 0 0 / 8%);
  font-size: 0.8125rem;
  overflow-wrap: anywhere;
  padding: 0 12px;
}

img {
  background: rgb(0 0 0 / 8%);
  display: block;
  width: 100%;
}

.bytes {
  font-size: 0.75rem;
  line-height: 20px;
}
</style>
