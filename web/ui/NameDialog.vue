<script setup lang="ts">
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { computed, ref, useId, watch } from 'vue';
import { NAME_MAX_LENGTH } from '#core/contract/preset';

/** Asks for a name. */
const props = defineProps<{ title: string; label: string; name: string; action: string }>();
const emit = defineEmits<{ done: [name: string] }>();
const isOpen = defineModel<boolean>({ required: true });

/** Several of these dialogs can be on one page. */
const fieldId = useId();
const typed = ref('');
const field = ref<HTMLInputElement | null>(null);
const trimmed = computed(() => typed.value.trim());
watch(isOpen, (open) => {
  if (open) typed.value = props.name;
});

function finish(): void {
  if (trimmed.value === '') return;
  isOpen.value = false;
  emit('done', trimmed.value);
}
</script>

<template>
  <BModal v-model="isOpen" :title="title" centered no-footer @shown="field?.select()">
    <form class="form" @submit.prevent="finish">
      <label class="form-label" :for="fieldId">{{ label }}</label>
      <input
        :id="fieldId"
        ref="field"
        v-model="typed"
        class="form-control"
        :maxlength="NAME_MAX_LENGTH"
        autocomplete="off"
      />
      <div class="actions">
        <button class="btn btn-outline-secondary" type="button" @click="isOpen = false">
          Cancel
        </button>
        <button class="btn btn-primary" type="submit" :disabled="trimmed === ''">
          {{ action }}
        </button>
      </div>
    </form>
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
