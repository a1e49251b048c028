<script setup lang="ts">
/** A box to tick, with its word. */
defineProps<{ label: string; title?: string; disabled?: boolean }>();
const isOn = defineModel<boolean>({ required: true });
</script>

<template>
  <label class="toggle" :title="title">
    <input v-model="isOn" class="form-check-input" type="checkbox" :disabled="disabled" />
    <span
      ><slot>{{ label }}</slot></span
    >
  </label>
</template>

<style scoped>
.toggle {
  align-items: center;
  cursor: pointer;
  display: flex;
  font-size: 0.8125rem;
  gap: 8px;
  min-height: 27px;
  white-space: nowrap;
}

.form-check-input {
  flex: none;
  margin: 0;
}
</style>
