<script setup lang="ts">
import { computed, onMounted, ref } from 'vue';
import { defaultFinish, FINISH_KINDS, type Finish, type FinishKind } from '#core/contract/finish';
import type { FinishSetView } from '#core/contract/http';
import { withFinish } from '#core/design/edit';
import { api } from '../api/client.ts';
import { useDesk } from './useDesk.ts';
import { useNotices } from '../app/notices.ts';
import MenuButton, { type MenuEntry } from '../ui/MenuButton.vue';
import BenchPanel from '../ui/BenchPanel.vue';
import { askName } from '../ui/ask.ts';
import { finishClipboard } from './finishClipboard.ts';
import { FINISH_LABELS, FINISH_PURPOSES } from './finishText.ts';

/** Finishes of the chosen layers, or of the whole mark; each opens to be set. */
defineProps<{ open: FinishKind | null }>();
const emit = defineEmits<{ open: [kind: FinishKind | null] }>();

const desk = useDesk();
const notices = useNotices();
const sets = ref<readonly FinishSetView[]>([]);

const target = computed(() => {
  if (desk.isWhole.value) return 'of the whole mark';
  const count = desk.chosen.value.size;
  return count > 1 ? `of ${count} layers` : count === 1 ? 'of this layer' : '';
});
const isPossible = computed(() => desk.isWhole.value || desk.chosen.value.size > 0);
const kinds = computed(() =>
  // Sharpening comes after everything else, so it is the whole mark's.
  FINISH_KINDS.filter((kind) => kind !== 'crispness' || desk.isWhole.value),
);
const on = computed(() => new Set(desk.finishes.value.map(({ kind }) => kind)));

onMounted(async () => {
  sets.value = (await notices.attempt(() => api.get<FinishSetView[]>('/finish-sets'))) ?? [];
});

function touch(kind: FinishKind): void {
  if (!on.value.has(kind)) {
    desk.changeFinishes(`Add ${FINISH_LABELS[kind].toLowerCase()}`, (finishes) =>
      withFinish(finishes, defaultFinish(kind)),
    );
  }
  emit('open', kind);
}

function copy(): void {
  finishClipboard.value = desk.finishes.value;
}

function use(name: string, finishes: readonly Finish[]): void {
  const fitting = desk.isWhole.value
    ? finishes
    : finishes.filter(({ kind }) => kind !== 'crispness');
  desk.changeFinishes(name, () => [...fitting]);
}

async function keepSet(): Promise<void> {
  const name = await askName({
    ...{ title: 'Keep these finishes', label: 'Name of the set' },
    ...{ name: 'Light on any photo', action: 'Keep' },
  });
  if (name === null) return;
  await notices.attempt(async () => {
    const body = { name, finishes: desk.finishes.value };
    sets.value = await api.post<FinishSetView[]>('/finish-sets', body);
    notices.done(`${name} can be used on any mark.`);
  });
}

const entries = computed((): MenuEntry[] => [
  ...sets.value.map(({ name, finishes }) => ({
    label: name,
    act: () => use(`Finishes ${name}`, finishes),
  })),
  {
    label: 'Keep these under a name',
    act: () => void keepSet(),
    isDisabled: on.value.size === 0,
  },
]);
</script>

<template>
  <BenchPanel title="Finishes">
    <template #end>{{ target }}</template>
    <div class="kinds d-flex flex-wrap">
      <button
        v-for="kind in kinds"
        :key="kind"
        type="button"
        class="kind"
        :class="{ on: on.has(kind), open: open === kind }"
        :aria-pressed="on.has(kind)"
        :title="FINISH_PURPOSES[kind]"
        :disabled="!isPossible"
        @click="touch(kind)"
      >
        {{ FINISH_LABELS[kind] }}
      </button>
    </div>
    <div class="acts d-flex gap-1">
      <button type="button" class="btn btn-link" :disabled="on.size === 0" @click="copy">
        Copy
      </button>
      <button
        type="button"
        class="btn btn-link"
        :disabled="!isPossible || finishClipboard === null"
        @click="finishClipboard && use('Paste finishes', finishClipboard)"
      >
        Paste
      </button>
      <MenuButton text="Saved" :entries="entries" :disabled="!isPossible" placement="top-end" />
    </div>
  </BenchPanel>
</template>

<style scoped>
.kinds {
  align-content: start;
  gap: 6px;
}

.kind {
  background: var(--lc-card);
  border: 1px solid var(--lc-hairline);
  border-radius: 13px;
  color: var(--lc-ink-quiet);
  font-size: 0.8125rem;
  line-height: 1;
  padding: 6px 10px;
}

.kind:hover:enabled {
  border-color: var(--lc-line);
  color: var(--lc-ink);
}

.kind.on,
.kind.on:hover:enabled {
  background: var(--lc-ink);
  border-color: var(--lc-ink);
  color: var(--lc-card);
}

.kind.open {
  box-shadow:
    0 0 0 2px var(--lc-paper),
    0 0 0 3px var(--lc-brass-light);
}

.kind:disabled {
  color: #a9b1b3;
}

.acts {
  margin: auto -0.35rem 0;
}
</style>
