<script setup lang="ts">
import { onClickOutside } from '@vueuse/core';
import { ref } from 'vue';
import { provideBench } from './benchFrame.ts';
import { useKeys } from './useKeys.ts';

/**
 * The bench of a working view: what opens above it, a bar, and its panels side by side. In a low or
 * narrow window it is one row: each panel is a tab that opens above it, so that the wall keeps its room.
 */
const props = defineProps<{
  /** Widths of the panels, as columns of a grid. */
  columns: string;
  /** The same where the window is less wide than usual, and where it is wide. */
  columnsNarrow?: string;
  columnsWide?: string;
}>();
const frame = ref<HTMLElement | null>(null);
const { isCompact, open } = provideBench();

useKeys(
  ({ key }) => {
    if (key !== 'Escape' || !isCompact.value || open.value === null) return false;
    frame.value?.querySelector<HTMLElement>('[aria-expanded="true"].tab')?.focus();
    open.value = null;
    return true;
  },
  { first: true, whileTyping: true },
);
// The wall below is what one looks at next; menus and questions belong to the panel.
onClickOutside(frame, () => (open.value = null), { ignore: ['.modal', '.dropdown-menu'] });
</script>

<template>
  <div
    ref="frame"
    class="work-bench"
    :class="{ compact: isCompact }"
    role="group"
    aria-label="Bench"
    :style="{
      '--columns': props.columns,
      '--columns-narrow': props.columnsNarrow ?? props.columns,
      '--columns-wide': props.columnsWide ?? props.columns,
    }"
  >
    <div class="sheets"><slot name="sheet" /></div>
    <slot name="bar" />
    <div class="panels"><slot /></div>
  </div>
</template>

<style scoped>
.panels {
  display: grid;
  grid-template-columns: var(--columns);
  min-height: 166px;
}

@media (max-width: 1160px) {
  .panels {
    grid-template-columns: var(--columns-narrow);
  }
}

@media (min-width: 1700px) {
  .panels {
    grid-template-columns: var(--columns-wide);
  }
}

.compact .panels {
  display: flex;
  flex-wrap: wrap;
  min-height: 0;
}

/* Over the wall: it keeps its size. */
.compact .sheets {
  bottom: 100%;
  box-shadow: var(--lc-lift);
  left: 0;
  max-height: min(62vh, calc(100vh - var(--lc-header) - 110px));
  overflow: auto;
  position: absolute;
  right: 0;
  z-index: 6;
}

/* Hardly any height: all of it is one page that scrolls. */
@media (max-height: 460px) {
  .compact .sheets {
    max-height: none;
    position: static;
  }
}
</style>
