<script setup lang="ts">
import type { PresetView } from '#core/contract/http';
import { useDraft } from './draft.ts';
import { useNotices } from '../app/notices.ts';
import PresetNameDialog from './PresetNameDialog.vue';

/** Saves what is on the bench as a new preset. */
const emit = defineEmits<{ saved: [id: number] }>();
const isOpen = defineModel<boolean>({ required: true });

const draft = useDraft();
const notices = useNotices();

function save(name: string): void {
  void notices.attempt(async () => {
    emit('saved', await draft.saveAsNew(name));
    notices.done(`${name} is saved.`);
  });
}

function update({ id, name }: PresetView): void {
  void notices.attempt(async () => {
    await draft.saveInto(id);
    emit('saved', id);
    notices.done(`${name} is updated.`);
  });
}
</script>

<template>
  <PresetNameDialog
    v-model="isOpen"
    title="Save as a new preset"
    :name="draft.suggestedName"
    action="Save"
    @named="save"
    @update="update"
  />
</template>
