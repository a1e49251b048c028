<script setup lang="ts">
import { computed, ref } from 'vue';
import type { MarkBox, MarkView } from '#core/contract/http';
import { useLibrary } from '../app/library.ts';
import { useNotices } from '../app/notices.ts';

/** A box of one colour round the artwork: asked about once, and open to a change of mind. */
const props = defineProps<{ mark: MarkView }>();
const library = useLibrary();
const notices = useNotices();

type Taken = NonNullable<MarkBox['taken']>;
const CHOICES: readonly { take: Taken; label: string; title: string }[] = [
  { take: 'outside', label: 'Outside', title: 'Inside of letters it stays' },
  {
    take: 'everywhere',
    label: 'Everywhere',
    title: 'Also inside of letters, as in an o',
  },
  { take: 'keep', label: 'Leave it', title: 'The box belongs to it' },
];
const DONE: Readonly<Record<Taken, string>> = {
  outside: 'The box round it was taken away, outside only.',
  everywhere: 'The box round it was taken away everywhere.',
  keep: 'The box round it was left.',
};

const isBusy = ref(false);
const isChanging = ref(false);
const taken = computed(() => props.mark.box?.taken ?? null);
const colour = computed(() => {
  const hex = props.mark.box?.colour ?? '#ffffff';
  const channels = [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16));
  if (channels.every((value) => value > 244)) return 'white';
  return channels.every((value) => value < 12) ? 'black' : hex;
});

async function decide(take: Taken): Promise<void> {
  isBusy.value = true;
  await notices.attempt(() => library.decideBox(props.mark.id, take));
  isBusy.value = false;
  isChanging.value = false;
}
</script>

<template>
  <div v-if="taken === null || isChanging" class="question" role="group" aria-label="Box round it">
    <span>It stands in a {{ colour }} box. Take the box away?</span>
    <span class="choices d-flex flex-wrap">
      <button
        v-for="{ take, label, title } in CHOICES"
        :key="take"
        class="btn btn-outline-secondary"
        type="button"
        :title="title"
        :disabled="isBusy"
        @click="decide(take)"
      >
        {{ label }}
      </button>
    </span>
  </div>
  <p v-else class="done quiet">
    {{ DONE[taken] }}
    <button class="btn btn-link" type="button" @click="isChanging = true">Change</button>
  </p>
</template>

<style scoped>
.question {
  align-items: center;
  background: var(--lc-brass-pale);
  border-left: 3px solid var(--lc-brass-light);
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  margin: 4px 0;
  padding: 8px 10px;
}

.choices {
  gap: 6px;
}

.choices .btn {
  --bs-btn-font-size: 0.8125rem;
  --bs-btn-padding-x: 0.5rem;
  --bs-btn-padding-y: 0.15rem;

  white-space: nowrap;
}

.done {
  font-size: 0.8125rem;
}
</style>
