<script setup lang="ts">
import { BModal } from 'bootstrap-vue-next/components/BModal';

/** Asks before something that cannot be undone. */
defineProps<{ title: string; text: string; action: string }>();
const emit = defineEmits<{ done: [] }>();
const isOpen = defineModel<boolean>({ required: true });

function finish(): void {
  isOpen.value = false;
  emit('done');
}
</script>

<template>
  <BModal v-model="isOpen" :title="title" centered no-footer>
    <p>{{ text }}</p>
    <div class="actions">
      <button class="btn btn-outline-secondary" type="button" @click="isOpen = false">Keep</button>
      <button class="btn btn-danger" type="button" @click="finish">{{ action }}</button>
    </div>
  </BModal>
</template>

<style scoped>
.actions {
  display: flex;
  gap: 10px;
  justify-content: flex-end;
  margin-top: 18px;
}
</style>
