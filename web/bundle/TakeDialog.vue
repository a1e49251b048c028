<script setup lang="ts">
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { computed, ref, watch } from 'vue';
import type {
  BundleDecision,
  BundleEntryView,
  BundleKind,
  BundleView,
  TakenBundleView,
} from '#core/contract/http';
import { api } from '../api/client.ts';
import { useAttempt } from '../api/useAttempt.ts';
import { useLibrary } from '../app/library.ts';
import { counted } from '../ui/format.ts';
import PickOne from '../ui/PickOne.vue';

/** A bundle beside the library: what becomes of each thing in it. */
const props = defineProps<{ bundle: BundleView }>();
const isOpen = defineModel<boolean>({ required: true });

const WORDS: Readonly<Record<BundleKind, string>> = {
  marks: 'mark',
  presets: 'preset',
  deliveries: 'delivery',
};
const FOR_NEW = [
  { value: 'add', label: 'take in' },
  { value: 'leave', label: 'leave' },
] as const;
const FOR_TAKEN = [
  { value: 'add', label: 'beside it', title: 'Under a name that is free' },
  { value: 'replace', label: 'in its place', title: 'What is there becomes an earlier version' },
  { value: 'leave', label: 'leave', title: 'What is there stays, and stands for it' },
] as const;

const library = useLibrary();
const decisions = ref(new Map<string, BundleDecision>());
const { problem, isBusy: isSending, attempt } = useAttempt();
const taken = ref<TakenBundleView | null>(null);

const keyOf = ({ kind, key }: BundleEntryView): string => `${kind} ${key}`;
watch(
  () => props.bundle,
  ({ entries }) => {
    [problem.value, taken.value] = [null, null];
    // Nothing that is there is touched, unless it is decided so.
    decisions.value = new Map(
      entries.map((entry) => [keyOf(entry), entry.state === 'same' ? 'leave' : 'add']),
    );
  },
  { immediate: true },
);

const isAnything = computed(() => [...decisions.value.values()].some((one) => one !== 'leave'));
const told = computed(() => {
  if (!taken.value) return '';
  const { added, replaced, left } = taken.value;
  const parts = [
    `${counted(added, 'thing')} taken in`,
    ...(replaced > 0 ? [`${replaced} in the place of what was there`] : []),
    ...(left > 0 ? [`${left} left`] : []),
  ];
  return `${parts.join(', ')}.`;
});

function decide(entry: BundleEntryView, decision: BundleDecision): void {
  decisions.value = new Map(decisions.value).set(keyOf(entry), decision);
}

function take(): Promise<void> {
  return attempt(async () => {
    const wish = props.bundle.entries.map((entry) => ({
      kind: entry.kind,
      key: entry.key,
      decision: decisions.value.get(keyOf(entry)) ?? 'leave',
    }));
    taken.value = await api.post<TakenBundleView>(`/bundles/${props.bundle.key}`, {
      decisions: wish,
    });
    // Presets come with the deliveries. What cannot be asked for now comes when the server is back.
    await Promise.all([library.refreshMarks(), library.refreshDeliveries()]).catch(() => undefined);
  });
}
</script>

<template>
  <BModal
    v-model="isOpen"
    title-tag="h2"
    title="Take in a bundle"
    centered
    scrollable
    size="lg"
    no-footer
  >
    <div class="d-grid gap-3">
      <template v-if="!taken">
        <p v-if="bundle.entries.length === 0" class="quiet m-0">Nothing is in it.</p>
        <ul class="list-unstyled m-0">
          <li
            v-for="entry in bundle.entries"
            :key="keyOf(entry)"
            class="entry align-items-center d-grid"
          >
            <span class="name">{{ entry.name }}</span>
            <span class="quiet">{{ WORDS[entry.kind] }}</span>
            <span v-if="entry.state === 'same'" class="quiet">there already</span>
            <span v-else class="d-flex flex-wrap align-items-center gap-2">
              <span v-if="entry.state === 'taken'" class="quiet">the name is taken:</span>
              <PickOne
                :label="`What becomes of ${entry.name}`"
                :options="entry.state === 'taken' ? FOR_TAKEN : FOR_NEW"
                :model-value="decisions.get(keyOf(entry)) ?? 'leave'"
                @update:model-value="decide(entry, $event)"
              />
            </span>
          </li>
        </ul>
      </template>
      <template v-else>
        <p class="m-0" role="status">{{ told }}</p>
        <ul v-if="taken.problems.length > 0" class="m-0">
          <li v-for="line in taken.problems" :key="line">{{ line }}</li>
        </ul>
      </template>
      <p v-if="problem" class="problem m-0" role="alert">{{ problem }}</p>
      <div class="d-flex gap-2 justify-content-end">
        <button class="btn btn-outline-secondary" type="button" @click="isOpen = false">
          {{ taken ? 'Close' : 'Cancel' }}
        </button>
        <button
          v-if="!taken"
          class="btn btn-primary"
          type="button"
          :disabled="isSending || !isAnything"
          @click="take"
        >
          Take in
        </button>
      </div>
    </div>
  </BModal>
</template>

<style scoped>
.entry {
  border-bottom: 1px solid var(--lc-line);
  gap: 12px;
  grid-template-columns: minmax(0, 1fr) 70px minmax(0, 1.5fr);
  padding: 7px 0;
}

.name {
  overflow-wrap: anywhere;
}

.problem {
  color: var(--lc-lost);
}
</style>
