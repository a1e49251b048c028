<script setup lang="ts">
import { computed, ref } from 'vue';
import type { PresetView } from '#core/contract/http';
import { freeName } from '#core/placement/suggestName';
import { useLibrary } from '../app/library.ts';
import NameDialog from '../ui/NameDialog.vue';
import NameTakenDialog from '../ui/NameTakenDialog.vue';

/** Asks for the name of a preset; where it is taken, whether to update that one or to keep both. */
const props = defineProps<{
  title: string;
  name: string;
  action: string;
  /** The preset that has the name now, and may keep it. */
  ownId?: number;
}>();
const emit = defineEmits<{ named: [name: string]; update: [taken: PresetView] }>();
const isOpen = defineModel<boolean>({ required: true });

const library = useLibrary();
const wanted = ref('');
const isAsking = ref(false);
const taken = computed(
  () => library.presets.find(({ id, name }) => name === wanted.value && id !== props.ownId) ?? null,
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
  else emit('named', name);
}
</script>

<template>
  <NameDialog
    v-model="isOpen"
    :title="title"
    label="Name"
    :name="name"
    :action="action"
    @done="named"
  />
  <NameTakenDialog
    v-model="isAsking"
    :name="wanted"
    :free-name="free"
    @update="taken && emit('update', taken)"
    @keep-both="emit('named', free)"
  />
</template>
