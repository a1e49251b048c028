<script setup lang="ts">
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { computed, nextTick, ref, shallowRef, useId, watch } from 'vue';
import { asked, typed, type Answer, type Question } from './ask.ts';

/** The one dialog that questions are asked in. */
const fieldId = useId();
const isOpen = computed(() => asked.value !== null);
/** Stays while the dialog fades away. */
const shown = shallowRef<Question | null>(null);
const trimmed = computed(() => typed.value.trim());
const isEmpty = computed(() => shown.value?.field !== undefined && trimmed.value === '');
/** Names that differ in case alone are one to the eye. */
const isTaken = computed(() => {
  const name = trimmed.value.toLowerCase();
  return shown.value?.field?.taken?.some((some) => some.toLowerCase() === name) ?? false;
});
const field = ref<HTMLInputElement | null>(null);
let opener: HTMLElement | null = null;

watch(asked, (now, before) => {
  // Asked on from an answer, the focus is still in the dialog: it goes back to where all began.
  if (!before && now && !now.from?.closest('.modal')) opener = now.from;
  if (now) shown.value = now.question;
});

function give(index: number): void {
  if (isEmpty.value) return;
  asked.value?.give({ index, text: trimmed.value });
}

function close(open: boolean | undefined): void {
  if (!open) asked.value?.give(null);
}

function giveBackFocus(): void {
  void nextTick(() => opener?.focus());
}

const LOOKS: Readonly<Record<Answer['kind'], string>> = {
  main: 'btn-primary',
  other: 'btn-outline-secondary',
  danger: 'btn-danger',
};
</script>

<template>
  <BModal
    :model-value="isOpen"
    :title="shown?.title ?? ''"
    title-tag="h2"
    centered
    no-footer
    :no-close-on-backdrop="shown?.mustAnswer === true"
    :no-close-on-esc="shown?.mustAnswer === true"
    :no-header-close="shown?.mustAnswer === true"
    @update:model-value="close"
    @shown="field?.select()"
    @hidden="giveBackFocus"
  >
    <form v-if="shown" @submit.prevent="give(shown.answers.length - 1)">
      <p v-if="shown.text">{{ shown.text }}</p>
      <p v-if="shown.detail" class="quiet mt-2">{{ shown.detail }}</p>
      <template v-if="shown.field">
        <label class="form-label" :for="fieldId">{{ shown.field.label }}</label>
        <input
          :id="fieldId"
          ref="field"
          v-model="typed"
          class="form-control"
          :maxlength="shown.field.maxLength"
          autocomplete="off"
        />
        <p class="quiet m-0 mt-1 taken" role="status">
          {{ isTaken ? 'Another has this name already; both may keep it.' : '' }}
        </p>
      </template>
      <div class="d-flex flex-wrap justify-content-end gap-2 mt-3">
        <button
          v-if="!shown.mustAnswer"
          class="btn btn-outline-secondary"
          type="button"
          @click="close(false)"
        >
          Cancel
        </button>
        <button
          v-for="(answer, index) in shown.answers"
          :key="answer.label"
          class="btn"
          :class="LOOKS[answer.kind]"
          :type="index === shown.answers.length - 1 ? 'submit' : 'button'"
          :disabled="isEmpty"
          @click="index < shown.answers.length - 1 && give(index)"
        >
          {{ answer.label }}
        </button>
      </div>
    </form>
  </BModal>
</template>

<style scoped>
/* The dialog does not jump while a name is typed. */
.taken {
  min-height: 1.5em;
}
</style>
