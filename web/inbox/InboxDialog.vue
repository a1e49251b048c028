<script setup lang="ts">
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { computed, ref, watch } from 'vue';
import type { InboxView, InboxWish } from '#core/contract/http';
import { NAME_MAX_LENGTH } from '#core/contract/preset';
import { useAttempt } from '../api/useAttempt.ts';
import { useLibrary } from '../app/library.ts';
import MarksSelect, { marksOfValue, marksValue } from '../preset/MarksSelect.vue';
import FolderPicker from '../settings/FolderPicker.vue';
import { useInboxes, wishOf } from './inboxes.ts';

/** A folder to watch: which one, with what marks, by which deliveries. */
const props = defineProps<{
  /** Null: a new one. */
  inbox: InboxView | null;
}>();
const isOpen = defineModel<boolean>({ required: true });

const library = useLibrary();
const inboxes = useInboxes();
const wish = ref<InboxWish>(emptyWish());
const { problem, isBusy: isSending, attempt } = useAttempt();
const isPicking = ref(false);
const isPickingAside = ref(false);
watch(
  isOpen,
  (open) => {
    if (!open) return;
    problem.value = null;
    wish.value = props.inbox ? wishOf(props.inbox) : emptyWish();
  },
  { immediate: true },
);

function emptyWish(): InboxWish {
  return {
    ...{ name: '', folder: '', isOn: true, aside: null },
    presetIds: library.presets.slice(0, 1).map(({ id }) => id),
    deliveryIds: library.deliveries.slice(0, 1).map(({ id }) => id),
  };
}

/** What is still missing, or null. */
const missing = computed(() => {
  const { folder, presetIds, deliveryIds } = wish.value;
  if (folder === '') return 'Choose the folder.';
  if (presetIds.length === 0) return 'Choose a preset.';
  return deliveryIds.length === 0 ? 'Tick a delivery.' : null;
});

function takeFolder(folder: string): void {
  const last = folder.split(/[/\\]/).filter(Boolean).at(-1) ?? folder;
  const isNamed =
    wish.value.name.trim() !== '' && wish.value.name !== nameOfFolder(wish.value.folder);
  wish.value = {
    ...wish.value,
    folder,
    ...(isNamed ? {} : { name: last.slice(0, NAME_MAX_LENGTH) }),
  };
}

function nameOfFolder(folder: string): string {
  return folder.split(/[/\\]/).filter(Boolean).at(-1) ?? folder;
}

function toggle(id: number): void {
  const { deliveryIds } = wish.value;
  const without = deliveryIds.filter((some) => some !== id);
  const next = without.length < deliveryIds.length ? without : [...deliveryIds, id];
  wish.value = { ...wish.value, deliveryIds: next };
}

function save(): Promise<void> {
  return attempt(async () => {
    if (missing.value) throw new Error(missing.value);
    const name = wish.value.name.trim() || nameOfFolder(wish.value.folder);
    if (props.inbox) await inboxes.change(props.inbox.id, { ...wish.value, name });
    else await inboxes.add({ ...wish.value, name });
    isOpen.value = false;
  });
}
</script>

<template>
  <BModal
    v-model="isOpen"
    title-tag="h2"
    :title="inbox ? `Change ${inbox.name}` : 'Watch a folder'"
    centered
    no-footer
  >
    <form class="d-grid form" @submit.prevent="save">
      <p class="quiet m-0">
        What appears in it is exported at once and quietly. Point the export of any program there.
      </p>
      <div class="line d-grid align-items-center">
        <span class="quiet">folder</span>
        <span class="d-flex align-items-center gap-2 folder">
          <span v-if="wish.folder" class="path" :title="wish.folder">{{ wish.folder }}</span>
          <button class="btn btn-outline-secondary" type="button" @click="isPicking = true">
            {{ wish.folder ? 'Another' : 'Choose a folder' }}
          </button>
        </span>
      </div>
      <label class="line d-grid align-items-center">
        <span class="quiet">name</span>
        <input v-model="wish.name" class="form-control" :maxlength="NAME_MAX_LENGTH" />
      </label>
      <div class="line d-grid align-items-center">
        <span class="quiet">marked with</span>
        <MarksSelect
          label="Marked with"
          :value="marksValue(wish.presetIds)"
          :preset-ids="wish.presetIds"
          @change="wish.presetIds = marksOfValue($event)"
        />
      </div>
      <div class="line d-grid">
        <span class="quiet">by</span>
        <div class="d-grid gap-1" role="group" aria-label="Deliveries">
          <label v-for="{ id, name } in library.deliveries" :key="id" class="d-flex gap-2">
            <input
              class="form-check-input"
              type="checkbox"
              :checked="wish.deliveryIds.includes(id)"
              @change="toggle(id)"
            />
            {{ name }}
          </label>
        </div>
      </div>
      <div class="line d-grid align-items-center">
        <span class="quiet">unreadable</span>
        <span class="d-flex flex-wrap align-items-center gap-2 folder">
          <span v-if="wish.aside" class="path" :title="wish.aside">moved to {{ wish.aside }}</span>
          <span v-else>stay where they are</span>
          <button class="btn btn-outline-secondary" type="button" @click="isPickingAside = true">
            {{ wish.aside ? 'Another' : 'Move them aside' }}
          </button>
          <button
            v-if="wish.aside"
            class="btn btn-link p-0"
            type="button"
            @click="wish.aside = null"
          >
            Leave them
          </button>
        </span>
      </div>
      <p v-if="problem" class="problem m-0" role="alert">{{ problem }}</p>
      <div class="d-flex gap-2 justify-content-end">
        <button class="btn btn-outline-secondary" type="button" @click="isOpen = false">
          Cancel
        </button>
        <button class="btn btn-primary" type="submit" :disabled="isSending">
          {{ inbox ? 'Save' : 'Watch it' }}
        </button>
      </div>
    </form>
    <FolderPicker
      v-model="isPicking"
      title="The folder that is watched"
      action="Watch this one"
      may-make
      @done="takeFolder"
    />
    <FolderPicker
      v-model="isPickingAside"
      title="Where photos go that cannot be read"
      action="Move them here"
      may-make
      @done="wish.aside = $event"
    />
  </BModal>
</template>

<style scoped>
.form {
  gap: 14px;
}

.line {
  gap: 12px;
  grid-template-columns: 84px minmax(0, 1fr);
}

.folder {
  min-width: 0;
}

.path {
  overflow-wrap: anywhere;
}

.problem {
  color: var(--lc-lost);
}
</style>
