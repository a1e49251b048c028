<script setup lang="ts">
import type { PresetView } from '#core/contract/http';
import { useLibrary } from '../app/library.ts';
import { useNotices } from '../app/notices.ts';
import PresetNameDialog from './PresetNameDialog.vue';

/** Another name for a preset; or the preset of that name takes over this one's mark and rule. */
const props = defineProps<{ preset: PresetView }>();
const emit = defineEmits<{ updated: [id: number] }>();
const isOpen = defineModel<boolean>({ required: true });

const library = useLibrary();
const notices = useNotices();

function rename(name: string): void {
  void notices.attempt(() => save(props.preset.id, name));
}

function update({ id, name }: PresetView): void {
  void notices.attempt(async () => {
    await save(id, name);
    notices.done(`${name} is updated.`);
    emit('updated', id);
  });
}

function save(id: number, name: string): Promise<PresetView> {
  const { markId, rule } = props.preset;
  return library.savePreset(id, { name, markId, rule });
}
</script>

<template>
  <PresetNameDialog
    v-model="isOpen"
    title="Rename the preset"
    :name="preset.name"
    action="Rename"
    :own-id="preset.id"
    @named="rename"
    @update="update"
  />
</template>
