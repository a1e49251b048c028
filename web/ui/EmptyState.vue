<script setup lang="ts">
/** What a view says while there is nothing in it, and what to do about that. */
defineProps<{
  title: string;
  text: string;
  /** It stands for the whole view, which has no heading of its own. */
  isWhole?: boolean;
}>();
</script>

<template>
  <div class="empty">
    <slot name="picture" />
    <component :is="isWhole ? 'h1' : 'h2'" class="title">{{ title }}</component>
    <p class="quiet">{{ text }}</p>
    <div class="actions d-flex flex-wrap justify-content-center mt-2"><slot /></div>
  </div>
</template>

<style scoped>
.empty {
  align-content: start;
  display: grid;
  gap: 10px;
  justify-items: center;
  margin: 10vh auto 0;
  max-width: 440px;
  text-align: center;
}

.title {
  font-size: 1.2rem;
}

.actions {
  gap: 10px;
}
</style>
