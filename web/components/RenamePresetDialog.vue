<script setup lang="ts">
import { computed, ref } from 'vue';
import type { PresetView } from '#core/contract/http';
import { freeName } from '#core/placement/suggestName';
import { useLibrary } from '../stores/library.ts';
import { useNotices } from '../stores/notices.ts';
import NameDialog from './NameDialog.vue';
import NameTakenDialog from './NameTakenDialog.vue';

/** Another name for a preset; one that is taken is asked about. */
const props = defineProps<{ preset: PresetView }>();
/** The preset of the taken name has this one's rule now. */
const emit = defineEmits<{ updated: [id: number] }>();
const isOpen = defineModel<boolean>({ required: true });

const library = useLibrary();
const notices = useNotices();
const wanted = ref('');
const isAsking = ref(false);
const taken = computed(
  () =>
    library.presets.find(({ id, name }) => name === wanted.value && id !== props.preset.id) ?? null,
);
const free = computed(() =>
  freeName(
    wanted.value,
    library.presets.map(({ name }) => name),
  ),
);

function named(name: string): void {
  wanted.value = name;
  if (taken.value) isAsking.value = true;
  else rename(name);
}

function rename(name: string): void {
  const { id, markId, rule } = props.preset;
  void notices.attempt(() => library.savePreset(id, { name, markId, rule }));
}

function update(): void {
  const other = taken.value;
  if (!other) return;
  void notices.attempt(async () => {
    const { markId, rule } = props.preset;
    await library.savePreset(other.id, { name: other.name, markId, rule });
    notices.done(`${other.name} is updated.`);
    emit('updated', other.id);
  });
}
</script>

<template>
  <NameDialog
    v-model="isOpen"
    title="Rename the preset"
    label="Name"
    :name="preset.name"
    action="Rename"
    @done="named"
  />
  <NameTakenDialog
    v-model="isAsking"
    :name="wanted"
    :free-name="free"
    @update="update"
    @keep-both="rename(free)"
  />
</template>
