<script setup lang="ts">
import { computed, ref } from 'vue';
import type { InboxView, UnreadView } from '#core/contract/http';
import { api } from '../api/client.ts';
import { useLibrary } from '../app/library.ts';
import { useNotices } from '../app/notices.ts';
import { presetsText } from '../preset/presetsText.ts';
import { askSure } from '../ui/ask.ts';
import { counted } from '../ui/format.ts';
import MenuButton, { type MenuEntry } from '../ui/MenuButton.vue';
import ToggleField from '../ui/ToggleField.vue';
import { useInboxes, wishOf } from './inboxes.ts';

/** A watched folder, with what it has taken. */
const props = defineProps<{ inbox: InboxView }>();
const emit = defineEmits<{ change: [] }>();

const library = useLibrary();
const inboxes = useInboxes();
const notices = useNotices();
/** Null: not asked for. */
const unread = ref<readonly UnreadView[] | null>(null);

const sentence = computed(() => {
  const { presetIds, deliveryIds } = props.inbox;
  const names = deliveryIds.map((id) => library.deliveryOf(id)?.name).filter(Boolean);
  return `${presetsText(presetIds, library)}, by ${names.join(', ')}`;
});
const counts = computed(() => {
  const { taken, written, failed, waiting } = props.inbox;
  const parts = [
    ...(waiting > 0 ? [`${waiting} on their way`] : []),
    `${counted(taken, 'photo')} taken`,
    `${counted(written, 'file')} written`,
    ...(failed > 0 ? [`${failed} failed`] : []),
  ];
  return parts.join(' · ');
});
const state = computed(() => {
  if (!props.inbox.isOn) return { word: 'off', kind: 'off' };
  return props.inbox.problem === null
    ? { word: 'watching', kind: 'on' }
    : { word: 'waiting', kind: 'held' };
});

function setOn(isOn: boolean): void {
  void notices.attempt(() => inboxes.change(props.inbox.id, { ...wishOf(props.inbox), isOn }));
}

async function showUnread(): Promise<void> {
  if (unread.value) {
    unread.value = null;
    return;
  }
  await notices.attempt(async () => {
    unread.value = await api.get<UnreadView[]>(`/inboxes/${props.inbox.id}/unread`);
  });
}

/** Most reasons name the file; where it lies is said as well then. */
function sentenceOn(name: string, reason: string): string {
  const fileName = name.slice(name.lastIndexOf('/') + 1);
  if (!reason.startsWith(fileName)) return `${name}: ${reason}`;
  return name + reason.slice(fileName.length);
}

async function remove(): Promise<void> {
  const { id, name } = props.inbox;
  const isSure = await askSure(
    `Stop watching ${name}?`,
    'The folder, its photos and what was made of them stay. Watched again, all of them are taken once more.',
    'Stop watching',
  );
  if (isSure) await notices.attempt(() => inboxes.remove(id));
}

const entries = computed<readonly MenuEntry[]>(() => [
  { label: 'Change', act: () => emit('change') },
  { label: 'Stop watching', act: () => void remove() },
]);
</script>

<template>
  <article class="card-plain inbox" :aria-label="`Watched folder ${inbox.name}`">
    <header class="d-flex align-items-center gap-2">
      <span class="dot" :class="state.kind" aria-hidden="true" />
      <h2 class="text-truncate">{{ inbox.name }}</h2>
      <span class="quiet">{{ state.word }}</span>
      <ToggleField
        class="ms-auto"
        label="on"
        :title="inbox.isOn ? 'Takes what appears in it' : 'Nothing is taken'"
        :model-value="inbox.isOn"
        @update:model-value="setOn"
      />
      <MenuButton
        text="More"
        :label="`More for ${inbox.name}`"
        :entries="entries"
        placement="bottom-end"
      />
    </header>
    <p class="serif sentence">{{ sentence }}</p>
    <p class="quiet path" :title="inbox.folder">{{ inbox.folder }}</p>
    <p v-if="inbox.problem" class="held-text" role="status">{{ inbox.problem }}</p>
    <p class="quiet number align-items-baseline d-flex flex-wrap gap-3">
      <span>{{ counts }}</span>
      <button
        v-if="inbox.unread > 0"
        class="btn btn-link p-0"
        type="button"
        :aria-expanded="unread !== null"
        @click="showUnread"
      >
        {{ inbox.unread }} could not be read
      </button>
      <RouterLink v-if="inbox.lastRunId" :to="`/runs/${inbox.lastRunId}`">Last run</RouterLink>
    </p>
    <ul v-if="unread" class="list-unstyled m-0 quiet">
      <li v-for="{ name, reason } in unread" :key="name">{{ sentenceOn(name, reason) }}</li>
    </ul>
  </article>
</template>

<style scoped>
.inbox {
  border-left: 4px solid var(--lc-brass-light);
  display: grid;
  gap: 6px;
  grid-template-columns: minmax(0, 1fr);
  padding: 14px 18px 14px 20px;
}

.inbox p {
  margin: 0;
}

h2 {
  min-width: 0;
}

.dot {
  border: 2px solid var(--lc-line);
  border-radius: 50%;
  flex: none;
  height: 11px;
  width: 11px;
}

.dot.on {
  background: var(--lc-clear);
  border-color: var(--lc-clear);
}

.dot.held {
  border-color: var(--lc-faint);
}

.sentence {
  font-size: 1.08rem;
  overflow-wrap: anywhere;
}

.path {
  font-size: 0.8125rem;
  overflow-wrap: anywhere;
}

.held-text {
  border-left: 3px solid var(--lc-faint);
  padding-left: 9px;
}
</style>
