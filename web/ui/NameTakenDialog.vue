<script setup lang="ts">
import { BModal } from 'bootstrap-vue-next/components/BModal';

/** A preset of that name exists already: what is to happen to it. */
defineProps<{ name: string; freeName: string }>();
const emit = defineEmits<{ update: []; keepBoth: [] }>();
const isOpen = defineModel<boolean>({ required: true });

function decide(what: 'update' | 'keepBoth'): void {
  // The answer first: closing without one is an answer of its own.
  if (what === 'update') emit('update');
  else emit('keepBoth');
  isOpen.value = false;
}
</script>

<template>
  <BModal v-model="isOpen" title="That name is taken" centered no-footer>
    <p>
      There is a preset named <b>{{ name }}</b>. Update that one, or keep both? Kept beside it, the
      new one is named {{ freeName }}.
    </p>
    <div class="actions">
      <button class="btn btn-outline-secondary" type="button" @click="isOpen = false">
        Cancel
      </button>
      <button class="btn btn-outline-secondary" type="button" @click="decide('keepBoth')">
        Keep both
      </button>
      <button class="btn btn-primary" type="button" @click="decide('update')">
        Update that one
      </button>
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
