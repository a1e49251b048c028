<script setup lang="ts">
import { computed, ref } from 'vue';
import { freeName } from '#core/placement/suggestName';
import { useDraft } from '../stores/draft.ts';
import { useLibrary } from '../stores/library.ts';
import { useNotices } from '../stores/notices.ts';
import NameDialog from './NameDialog.vue';
import NameTakenDialog from './NameTakenDialog.vue';

/** Saves what is on the bench as a new preset; a name that is taken is asked about. */
const emit = defineEmits<{ saved: [id: number] }>();
const isOpen = defineModel<boolean>({ required: true });

const draft = useDraft();
const library = useLibrary();
const notices = useNotices();
const wanted = ref('');
const isAsking = ref(false);
const taken = computed(() => library.presets.find(({ name }) => name === wanted.value) ?? null);
const free = computed(() =>
  freeName(
    wanted.value,
    library.presets.map(({ name }) => name),
  ),
);

function named(name: string): void {
  wanted.value = name;
  if (taken.value) isAsking.value = true;
  else save(name);
}

function save(name: string): void {
  void notices.attempt(async () => {
    const id = await draft.saveAsNew(name);
    emit('saved', id);
    notices.done(`${name} is saved.`);
  });
}

function update(): void {
  const preset = taken.value;
  if (!preset) return;
  void notices.attempt(async () => {
    await draft.saveInto(preset.id);
    emit('saved', preset.id);
    notices.done(`${preset.name} is updated.`);
  });
}
</script>

<template>
  <NameDialog
    v-model="isOpen"
    title="Save as a new preset"
    label="Name"
    :name="draft.suggestedName"
    action="Save"
    @done="named"
  />
  <NameTakenDialog
    v-model="isAsking"
    :name="wanted"
    :free-name="free"
    @update="update"
    @keep-both="save(free)"
  />
</template>
