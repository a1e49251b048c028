<script setup lang="ts">
import { nextTick, onBeforeUnmount, onMounted, ref } from 'vue';
import { useBench } from './benchFrame.ts';
import { isTyping } from './keyTargets.ts';
import { useKeys } from './useKeys.ts';

/**
 * What is rarely used, opened above the bench. The focus goes into it, Escape closes it, and the focus
 * goes back to what opened it.
 */
defineProps<{ label: string }>();
const emit = defineEmits<{ close: [] }>();

const frame = ref<HTMLElement | null>(null);
let opener: HTMLElement | null = null;
/** The panel it was opened from, where the bench is one row. */
let panel: string | null = null;

const bench = useBench();
onMounted(() => {
  panel = bench?.open.value ?? null;
  if (bench) bench.open.value = null;
  opener = document.activeElement instanceof HTMLElement ? document.activeElement : null;
  frame.value?.focus({ preventScroll: true });
});
onBeforeUnmount(() => {
  const active = document.activeElement;
  const isInside = frame.value?.contains(active) === true || active === document.body;
  if (bench && bench.open.value === null) bench.open.value = panel;
  void nextTick(() => {
    if (isInside && opener?.isConnected) opener.focus({ preventScroll: true });
  });
});

// Before the view below leaves what it has open; what is being typed is put back first.
useKeys(
  (event) => {
    if (event.key !== 'Escape' || isTextField(event.target)) return false;
    emit('close');
    return true;
  },
  { first: true, whileTyping: true },
);

function isTextField(target: EventTarget | null): boolean {
  return isTyping(target) && (target as HTMLInputElement).type !== 'range';
}
</script>

<template>
  <section ref="frame" class="sheet" tabindex="-1" :aria-label="label">
    <slot />
    <span class="end">
      <slot name="end" />
      <button class="btn btn-outline-secondary" type="button" @click="emit('close')">Done</button>
    </span>
  </section>
</template>

<style scoped>
.sheet {
  align-items: end;
  background: var(--lc-paper);
  border-bottom: 1px solid var(--lc-hairline);
  display: flex;
  flex-wrap: wrap;
  gap: 10px 22px;
  padding: 10px 18px 12px;
  position: relative;
}

.sheet:focus {
  outline: none;
}

.end {
  display: flex;
  gap: 8px;
  margin-left: auto;
}
</style>
