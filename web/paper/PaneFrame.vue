<script setup lang="ts">
import { ref } from 'vue';
import type { Size } from '#core/placement/geometry';
import { useFit } from './useFit.ts';

/** One half of the wall: words above, a picture as large as it fits, words below. */
const props = defineProps<{ title: string; shape: Size | null }>();

const stage = ref<HTMLElement | null>(null);
/** Size of the picture, CSS px. */
const shown = useFit(stage, () => props.shape);
</script>

<template>
  <section class="pane" :aria-label="title">
    <header class="align-items-center d-flex text-nowrap">
      <h2 class="minor">{{ title }}</h2>
      <slot name="head" />
    </header>
    <div ref="stage" class="stage align-items-center d-flex justify-content-center overflow-hidden">
      <slot v-if="shape" :shown="shown" />
      <p v-else class="waiting" role="status"><slot name="waiting" /></p>
    </div>
    <footer class="align-items-center d-flex text-nowrap"><slot name="foot" /></footer>
  </section>
</template>

<style scoped>
.pane {
  display: grid;
  gap: 8px;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto minmax(0, 1fr) auto;
  min-width: 0;
}

header {
  gap: 12px;
  min-height: 30px;
}

.stage {
  min-height: 0;
  min-width: 0;
}

.waiting {
  color: var(--lc-on-surround-quiet);
}

footer {
  color: var(--lc-on-surround-quiet);
  gap: 12px;
  min-height: 26px;
}

footer :deep(.btn-link) {
  --bs-btn-color: var(--lc-on-surround);

  text-decoration: underline;
  text-underline-offset: 3px;
}

/* Narrow: the tools say which half it is. */
@media (max-width: 1160px) {
  header {
    gap: 4px;
  }

  h2 {
    height: 1px;
    overflow: hidden;
    position: absolute;
    width: 1px;
  }

  footer {
    gap: 8px;
  }
}
</style>
