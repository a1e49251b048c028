<script setup lang="ts">
import type { MarkView } from '#core/contract/http';
import type { ToneChoice } from '#core/contract/preset';
import { markPicture } from './markPicture.ts';

/** A mark on light and dark at once, so that white on white never looks empty. */
defineProps<{ mark: MarkView; tone: ToneChoice; large?: boolean }>();

/** One for all sizes it is shown in, twice as wide as the widest. */
const WIDTH_PX = 384;
</script>

<template>
  <div class="split" :class="{ large }">
    <div
      v-for="ground in ['light', 'dark']"
      :key="ground"
      class="half align-items-center d-flex justify-content-center"
      :class="ground"
    >
      <img
        :src="markPicture(mark, tone, WIDTH_PX)"
        :alt="ground === 'light' ? mark.name : ''"
        draggable="false"
      />
    </div>
  </div>
</template>

<style scoped>
.split {
  border: 1px solid var(--lc-hairline);
  border-radius: var(--lc-radius);
  display: grid;
  grid-template-columns: 1fr 1fr;
  overflow: hidden;
}

.half {
  min-height: 0;
  min-width: 0;
  padding: 9px 12px;
}

.large .half {
  padding: 22px 24px;
}

.half.light {
  background: #e4ddcd;
}

.half.dark {
  background: #2b3d46;
}

img {
  max-height: 100%;
  max-width: 100%;
  object-fit: contain;
}
</style>
