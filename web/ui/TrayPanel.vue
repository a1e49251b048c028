<script setup lang="ts">
/** A tray under a wall: one line that says what is the matter, and lists below it that scroll. */
defineProps<{ label: string }>();
</script>

<template>
  <section class="tray" :aria-label="label">
    <div class="line align-items-center d-flex"><slot name="line" /></div>
    <slot />
  </section>
</template>

<style scoped>
.tray {
  background: var(--lc-card);
  border-top: 1px solid var(--lc-hairline);
  padding: 3px 18px;
}

.line {
  gap: 14px;
  min-height: 30px;
}

:slotted(ul) {
  color: var(--lc-ink-quiet);
  list-style: none;
  margin: 0;
  max-height: 92px;
  overflow: auto;
  padding: 2px 0 6px;
}
</style>
