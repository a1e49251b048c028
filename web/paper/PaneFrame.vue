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
    <header>
      <h2 class="minor">{{ title }}</h2>
      <slot name="head" />
    </header>
    <div ref="stage" class="stage">
      <slot v-if="shape" :shown="shown" />
      <p v-else class="waiting" role="status"><slot name="waiting" /></p>
    </div>
    <footer><slot name="foot" /></footer>
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
  align-items: center;
  display: flex;
  gap: 12px;
  min-height: 30px;
  white-space: nowrap;
}

.stage {
  align-items: center;
  display: flex;
  justify-content: center;
  min-height: 0;
  min-width: 0;
  overflow: hidden;
}

.waiting {
  color: var(--lc-on-surround-quiet);
}

footer {
  align-items: center;
  color: var(--lc-on-surround-quiet);
  display: flex;
  gap: 12px;
  min-height: 26px;
  white-space: nowrap;
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
