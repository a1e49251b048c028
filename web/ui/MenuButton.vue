<script setup lang="ts">
import { BDropdown } from 'bootstrap-vue-next/components/BDropdown';

/** A button that opens a menu of things to do. */
export interface MenuEntry {
  readonly label: string;
  /** What it does, or where it leads. */
  readonly act?: () => void;
  readonly to?: string;
  readonly isDisabled?: boolean;
}

withDefaults(
  defineProps<{
    text: string;
    /** What the button is called, where its word alone does not say it. */
    label?: string;
    entries: readonly MenuEntry[];
    variant?: 'link' | 'outline-secondary';
    placement?: 'bottom-start' | 'bottom-end' | 'top-start' | 'top-end';
    disabled?: boolean;
  }>(),
  { variant: 'link', placement: 'bottom-start' },
);
</script>

<template>
  <BDropdown
    :variant="variant"
    :placement="placement"
    :disabled="disabled"
    :aria-label="label"
    role="menu"
    no-caret
  >
    <template #button-content>{{ text }} <span aria-hidden="true">▾</span></template>
    <li v-for="entry in entries" :key="entry.label" role="none">
      <RouterLink v-if="entry.to" class="dropdown-item" role="menuitem" :to="entry.to">
        {{ entry.label }}
      </RouterLink>
      <button
        v-else
        class="dropdown-item"
        type="button"
        role="menuitem"
        :disabled="entry.isDisabled"
        @click="entry.act?.()"
      >
        {{ entry.label }}
      </button>
    </li>
  </BDropdown>
</template>
