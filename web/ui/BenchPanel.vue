<script setup lang="ts">
/** One field of the bench: a heading, what it is about at the right, controls below. */
defineProps<{ title: string }>();
</script>

<template>
  <section class="panel" :aria-label="title">
    <header>
      <h2 class="minor">{{ title }}</h2>
      <span class="end"><slot name="end" /></span>
    </header>
    <div class="body"><slot /></div>
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
  align-items: center;
  display: flex;
  gap: 10px;
  justify-content: space-between;
  flex: none;
  height: 24px;
}

.end {
  color: var(--lc-ink-quiet);
  font-size: 0.8125rem;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.body {
  display: flex;
  flex: 1;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
}

@media (max-width: 1160px) {
  .panel {
    padding-inline: 12px;
  }
}
</style>
