<script setup lang="ts">
/** A control of a sheet with its word above it. */
defineProps<{ label: string }>();
</script>

<template>
  <div class="field">
    <span class="quiet">{{ label }}</span>
    <span class="control"><slot /></span>
  </div>
</template>

<style scoped>
.field {
  display: grid;
  flex: 0 1 auto;
  font-size: 0.8125rem;
  gap: 1px;
}

.control {
  align-items: center;
  display: flex;
  min-height: 29px;
}

.control :deep(.range) {
  width: 212px;
}

@media (max-width: 1160px) {
  .control :deep(.range) {
    width: 172px;
  }
}

.control :deep(.pick) {
  margin-left: -7px;
}
</style>
