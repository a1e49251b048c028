<script setup lang="ts">
import { computed, ref } from 'vue';
import type { EarlierMark, MarkView } from '#core/contract/http';
import type { ToneChoice } from '#core/contract/preset';
import { sharpUpTo } from '#core/mark/sharpness';
import { useTones } from './useTones.ts';
import { useLibrary } from '../app/library.ts';
import { useBin } from '../app/bin.ts';
import { useNotices } from '../app/notices.ts';
import EarlierVersions from '../app/EarlierVersions.vue';
import { askName, namesBeside } from '../ui/ask.ts';
import MenuButton, { type MenuEntry } from '../ui/MenuButton.vue';
import SplitMark from './SplitMark.vue';
import BoxQuestion from './BoxQuestion.vue';
import DownloadDialog from './DownloadDialog.vue';
import ToneDropper from './ToneDropper.vue';
import ToneSwatches from './ToneSwatches.vue';

/** A mark of the library, large, in the tone that is looked at. */
const props = defineProps<{ mark: MarkView }>();
const library = useLibrary();
const notices = useNotices();
const bin = useBin();
const tones = useTones();
const tone = ref<ToneChoice>('original');
const asking = ref<'download' | 'tone' | 'earlier' | null>(null);
const isAsking = (what: NonNullable<typeof asking.value>) =>
  computed({
    get: () => asking.value === what,
    set: (open: boolean) => (asking.value = open ? what : null),
  });
const isDownloading = isAsking('download');
const isDropping = isAsking('tone');
const isLookingBack = isAsking('earlier');
const file = ref<HTMLInputElement | null>(null);

const kind = computed(() => {
  const { width, height } = props.mark.ink;
  if (props.mark.isPending) return props.mark.notes.length > 0 ? 'Not lifted' : 'Being lifted';
  if (props.mark.origin === 'design') return 'Layers, changed at any time';
  if (props.mark.kind === 'svg') return 'Outlines, sharp at any size';
  return `${Math.round(width)} × ${Math.round(height)} px`;
});
const use = computed(() =>
  props.mark.usedBy.length === 0
    ? 'Not used by a preset yet'
    : `Used by ${props.mark.usedBy.join('; ')}`,
);
const smallness = computed(() => {
  if (props.mark.origin === 'design' || props.mark.isPending) return null;
  const limit = sharpUpTo(props.mark.kind, props.mark.ink);
  if (!limit) return null;
  return (
    `Small: sharp at ${limit.share * 100} % on photos up to ` +
    `${limit.photoLongSidePx.toLocaleString('en')} px. An SVG stays sharp on all.`
  );
});
/** Where it can be taken up again as it was made. */
const again = computed(() => {
  const { id, origin, scanId } = props.mark;
  if (origin === 'pen') return { to: `/marks/pen?mark=${id}`, label: 'Sign again' };
  if (scanId === null) return null;
  return { to: `/marks/from-paper/${scanId}?mark=${id}`, label: 'Lift again' };
});

function change(part: { name?: string; retired?: boolean }): void {
  void notices.attempt(() => library.changeMark(props.mark.id, part));
}

async function rename(): Promise<void> {
  const name = await askName({
    ...{ title: 'Rename the mark', name: props.mark.name, action: 'Rename' },
    taken: namesBeside(library.marks, props.mark.id),
  });
  if (name !== null) change({ name });
}

function remove(): void {
  const { id, name } = props.mark;
  void bin.discard({ kind: 'marks', id, name });
}

function duplicate(): void {
  void notices.attempt(async () => {
    const copy = await library.duplicateMark(props.mark.id);
    notices.done(`${copy.name} is in the library.`);
  });
}

function replace(event: Event): void {
  const input = event.target as HTMLInputElement;
  const chosen = input.files?.[0];
  input.value = '';
  if (!chosen) return;
  void notices.attempt(async () => {
    await library.replaceArtwork(props.mark.id, chosen);
    notices.done(`${props.mark.name} has new artwork. Its presets stay.`);
  });
}

const entries = computed((): MenuEntry[] => [
  ...(again.value ? [again.value] : []),
  { label: 'Replace the artwork', act: () => file.value?.click() },
  { label: 'Duplicate', act: duplicate },
  { label: 'Rename', act: () => void rename() },
  { label: 'Earlier versions', act: () => (asking.value = 'earlier') },
  {
    label: props.mark.retired ? 'Bring back' : 'Retire',
    act: () => change({ retired: !props.mark.retired }),
  },
  // One that is used is only retired.
  ...(props.mark.usedBy.length === 0 ? [{ label: 'Delete', act: remove }] : []),
]);
</script>

<template>
  <article
    :id="`mark-${mark.id}`"
    class="card-plain entry"
    :class="{ retired: mark.retired }"
    :aria-label="mark.name"
  >
    <SplitMark class="picture" :mark="mark" :tone="tone" large />
    <div class="text d-flex flex-column gap-1">
      <header>
        <h2 class="text-truncate" :title="mark.name">{{ mark.name }}</h2>
        <ToneSwatches
          v-model="tone"
          :tones="tones"
          :label="`Tone of ${mark.name}`"
          @drop="isDropping = true"
        />
      </header>
      <p class="quiet number use" :title="use">{{ kind }}. {{ use }}.</p>
      <BoxQuestion v-if="mark.box" :mark="mark" />
      <p v-if="smallness" class="note">{{ smallness }}</p>
      <p v-for="note in mark.notes" :key="note" class="note">{{ note }}</p>
      <div class="actions align-items-baseline d-flex">
        <RouterLink
          class="btn btn-link"
          :to="`/marks/${mark.id}/design`"
          :aria-label="`Design ${mark.name}`"
          >Design</RouterLink
        >
        <button
          class="btn btn-link"
          type="button"
          :aria-label="`Download ${mark.name}`"
          @click="isDownloading = true"
        >
          Download
        </button>
        <MenuButton
          class="ms-auto"
          text="More"
          :label="`More for ${mark.name}`"
          :entries="entries"
          placement="bottom-end"
        />
        <input
          ref="file"
          class="visually-hidden-input"
          type="file"
          tabindex="-1"
          :aria-label="`New artwork for ${mark.name}`"
          @change="replace"
        />
      </div>
    </div>
    <DownloadDialog v-model="isDownloading" :mark="mark" :tone="tone" />
    <EarlierVersions
      v-if="isLookingBack"
      v-slot="{ version }"
      v-model="isLookingBack"
      :name="mark.name"
      :path="`/marks/${mark.id}`"
      @taken="library.refreshMarks()"
    >
      <SplitMark
        class="earlier"
        :mark="{ ...mark, ...(version.value as EarlierMark), version: version.version }"
        tone="original"
      />
    </EarlierVersions>
    <ToneDropper v-model="isDropping" @picked="tone = $event" />
  </article>
</template>

<style scoped>
/* Not cut off: its menu opens over what is beside it. */
.entry {
  display: flex;
  flex-direction: column;
}

.entry.retired .picture {
  opacity: 0.55;
}

.picture {
  border-radius: 5px 5px 0 0;
  border-width: 0 0 1px;
  height: 136px;
}

.earlier {
  border-width: 0 0 1px;
  height: 110px;
}

.text {
  flex: 1;
  padding: 10px 14px 8px;
}

header {
  display: grid;
  gap: 6px;
}

h2 {
  min-width: 0;
}

.use {
  -webkit-box-orient: vertical;
  display: -webkit-box;
  -webkit-line-clamp: 2;
  line-clamp: 2;
  overflow: hidden;
}

.note {
  border-left: 3px solid var(--lc-brass-light);
  font-size: 0.8125rem;
  padding-left: 9px;
}

.actions {
  gap: 0 6px;
  margin: auto -0.35rem 0;
  padding-top: 4px;
}
</style>
