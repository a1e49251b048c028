<script setup lang="ts">
/** What a view says while there is nothing in it, and what to do about that. */
defineProps<{ title: string; text: string }>();
</script>

<template>
  <div class="empty">
    <slot name="picture" />
    <h2>{{ title }}</h2>
    <p class="quiet">{{ text }}</p>
    <div class="actions"><slot /></div>
  </div>
</template>

<style scoped>
.empty {
  display: grid;
  gap: 10px;
  justify-items: center;
  margin: 10vh auto 0;
  max-width: 440px;
  text-align: center;
}

.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  justify-content: center;
  margin-top: 8px;
}
</style>
