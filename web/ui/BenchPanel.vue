<script setup lang="ts">
import { computed, useId } from 'vue';
import { useBench } from './benchFrame.ts';

/**
 * One field of the bench: a heading, what it is about at the right, controls below, and what it is all
 * for at the bottom. Where the bench is one row, it is a tab.
 */
const props = defineProps<{
  title: string;
  /** What is set, in a word, for the tab. */
  summary?: string;
}>();
defineSlots<{ default?(): unknown; end?(): unknown; go?(): unknown }>();

const id = useId();
const bench = useBench();
const isCompact = computed(() => bench?.isCompact.value ?? false);
const isOpen = computed(() => bench?.open.value === props.title);

function toggle(): void {
  if (bench) bench.open.value = isOpen.value ? null : props.title;
}
</script>

<template>
  <section class="panel" :class="{ compact: isCompact, open: isOpen }" :aria-label="title">
    <button
      v-if="isCompact"
      class="tab align-items-baseline d-flex gap-2 text-start"
      type="button"
      :aria-expanded="isOpen"
      :aria-controls="id"
      @click="toggle"
    >
      <span class="serif text-truncate">{{ title }}</span>
      <span v-if="summary" class="summary quiet number text-truncate">{{ summary }}</span>
    </button>
    <div v-show="!isCompact || isOpen" :id="id" class="inner">
      <header class="align-items-center d-flex justify-content-between">
        <h2 class="minor">{{ title }}</h2>
        <span class="end text-truncate"><slot name="end" /></span>
      </header>
      <div class="body"><slot /></div>
    </div>
    <div v-if="$slots.go" class="go"><slot name="go" /></div>
  </section>
</template>

<style scoped>
.panel {
  border-right: 1px solid var(--lc-hairline);
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-width: 0;
  padding: 10px 18px 12px;
}

.panel:last-child {
  border-right: 0;
}

header {
  gap: 10px;
  flex: none;
  height: 24px;
}

.end {
  color: var(--lc-ink-quiet);
  font-size: 0.8125rem;
  min-width: 0;
}

.inner,
.body {
  display: flex;
  flex: 1;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
}

.go {
  display: grid;
}

.go :slotted(.btn) {
  font-size: 1rem;
  padding-block: 8px;
}

@media (max-width: 1160px) {
  .panel {
    padding-inline: 12px;
  }
}

/* As a tab of the one row. */
.panel.compact {
  flex: 1 1 0;
  flex-direction: row;
  padding: 0;
  position: relative;
}

.panel.compact:has(> .go) {
  flex: 2 1 220px;
}

.tab {
  background: none;
  border: 0;
  border-top: 3px solid transparent;
  color: var(--lc-ink);
  flex: 1 1 0;
  min-height: 46px;
  min-width: 0;
  padding: 8px 14px 10px;
}

.tab .serif {
  flex: none;
  font-size: 1.02rem;
  max-width: 100%;
}

.summary {
  font-size: 0.8125rem;
  min-width: 0;
}

.tab:hover {
  background: var(--lc-paper-deep);
}

.open .tab {
  background: var(--lc-card);
  border-top-color: var(--lc-brass-light);
}

.compact .go {
  align-content: center;
  flex: 1 1 auto;
  padding: 4px 12px;
}

.compact .go :slotted(.btn) {
  padding-block: 5px;
}

.compact .inner {
  background: var(--lc-paper);
  border: 1px solid var(--lc-hairline);
  bottom: 100%;
  box-shadow: var(--lc-lift);
  flex: none;
  left: 0;
  max-height: min(62vh, calc(100vh - var(--lc-header) - 110px));
  min-width: 340px;
  overflow: auto;
  padding: 12px 18px 16px;
  position: absolute;
  z-index: 5;
}

.compact:nth-last-child(-n + 2):not(:first-child) .inner {
  left: auto;
  right: 0;
}

.compact .body {
  flex: none;
}

/* The drawer of a small screen, as wide as that. */
@media (max-width: 900px) {
  .panel.compact {
    flex: 1 1 auto;
    position: static;
  }

  .panel.compact:has(> .go) {
    flex: 1 1 auto;
  }

  .tab {
    padding-inline: 12px;
  }

  .compact .inner,
  .compact:nth-last-child(-n + 2):not(:first-child) .inner {
    border-width: 1px 0;
    left: 0;
    min-width: 0;
    right: 0;
  }
}

@media (max-width: 640px) {
  .summary {
    display: none;
  }

  .tab {
    flex-basis: auto;
    justify-content: center;
    padding-inline: 5px;
  }

  .tab .serif {
    font-size: 0.95rem;
  }

  .panel.compact {
    border-right: 0;
  }

  .panel.compact:has(> .go) {
    display: contents;
  }

  .compact .go {
    flex-basis: 100%;
  }
}

@media (max-height: 460px) {
  .panel.compact.open {
    flex-basis: 100%;
    flex-wrap: wrap;
  }

  .compact .inner,
  .compact:nth-last-child(-n + 2):not(:first-child) .inner {
    box-shadow: none;
    flex-basis: 100%;
    max-height: none;
    position: static;
  }
}
</style>
