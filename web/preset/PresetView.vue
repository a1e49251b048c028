<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import BenchPanel from '../ui/BenchPanel.vue';
import BenchTray from './bench/BenchTray.vue';
import EmptyState from '../ui/EmptyState.vue';
import MarkedPhoto from './MarkedPhoto.vue';
import ReadingSign from '../readability/ReadingSign.vue';
import EarlierVersions from '../app/EarlierVersions.vue';
import MenuButton, { type MenuEntry } from '../ui/MenuButton.vue';
import type { EarlierPreset } from '#core/contract/http';
import PresetPicture from './PresetPicture.vue';
import PresetHead from './PresetHead.vue';
import { renamePreset, saveAsNewPreset } from './askPresetName.ts';
import { useBin } from '../app/bin.ts';
import { actionOf } from '../app/shortcuts.ts';
import { fillRows } from '../ui/fillRows.ts';
import { percentText } from '../readability/readingText.ts';
import { HARD_WORDS, useHardPhotos } from '../readability/useHardPhotos.ts';
import { useLastBatch } from './useLastBatch.ts';
import { useDraft } from './draft.ts';
import { useLibrary } from '../app/library.ts';
import { useAdjustmentSync } from '../batch/adjustmentSync.ts';
import { useNotices } from '../app/notices.ts';
import { useReadings } from '../readability/readings.ts';
import { useHeldKey } from '../ui/useKeys.ts';

/** A preset on the wall of the five hard photos of the last batch; 0 is a new one. */
const props = defineProps<{ id: number }>();

/** The bench draws its frame in the shape most photos have. */
const USUAL_PHOTO = { width: 3000, height: 2000 };
const draft = useDraft();
const library = useLibrary();
const notices = useNotices();
const bin = useBin();
const router = useRouter();
const sync = useAdjustmentSync();
const readings = useReadings();
const { all, batch, isLoaded } = useLastBatch();
const hard = useHardPhotos(() => batch.value?.pins ?? {});
watch(all, (photos) => readings.follow(photos, null), { immediate: true });
onBeforeUnmount(() => readings.follow([], null));

const wall = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(wall);
const rows = computed(() =>
  fillRows(
    hard.value.map((item) => ({ ...item, width: item.photo.width, height: item.photo.height })),
    { width: width.value, height: height.value },
  ),
);
/** Out of the way of the mark. */
const captionsHigh = computed(() => draft.rule.anchor.startsWith('bottom'));
const isMarkHidden = useHeldKey((event) => actionOf(event) === 'hide-mark');
const isThere = computed(() => props.id === 0 || library.presetOf(props.id) !== null);

onMounted(() => {
  // Here the rule is seen as it is, without what single photos have of their own.
  void sync.leave();
  draft.open(props.id === 0 ? null : props.id);
});

function choose(id: number | null): void {
  void router.push(`/presets/${id ?? 0}`);
}

async function rename(): Promise<void> {
  const id = draft.saved && (await renamePreset(draft.saved));
  if (id !== null && id !== props.id) choose(id);
}

async function saveAsNew(): Promise<void> {
  const id = await saveAsNewPreset();
  if (id !== null) void router.replace(`/presets/${id}`);
}

function save(): void {
  if (!draft.saved) return void saveAsNew();
  void notices.attempt(async () => {
    if (await draft.save()) notices.done(`${draft.name} is saved.`);
  });
}

async function remove(): Promise<void> {
  const { saved } = draft;
  if (!saved) return;
  const { id, name } = saved;
  if (await bin.discard({ kind: 'presets', id, name })) await router.push('/presets');
}

function pictureOf({ markId, rule }: EarlierPreset) {
  return { mark: library.markOf(markId), rule, photo: hard.value[0]?.photo ?? null };
}

const isLookingBack = ref(false);
const entries = computed<readonly MenuEntry[]>(() => [
  { label: 'Rename', act: () => void rename() },
  { label: draft.isDirty ? 'Save as new' : 'Duplicate', act: () => void saveAsNew() },
  { label: 'Earlier versions', act: () => (isLookingBack.value = true) },
  { label: 'Download as a file', act: () => location.assign(`/api/presets/${props.id}/file`) },
  { label: 'Delete', act: () => void remove() },
]);
</script>

<template>
  <EmptyState
    v-if="!isThere"
    is-whole
    title="This preset is gone"
    text="It was deleted, here or in another window."
  >
    <RouterLink class="btn btn-outline-secondary" to="/presets">All presets</RouterLink>
  </EmptyState>
  <div v-else class="work">
    <div class="surround work-wall">
      <PresetHead :name="draft.name" :batch-name="batch?.name ?? null" />
      <div ref="wall" class="wall d-flex flex-column gap-2 justify-content-center">
        <div
          v-for="(row, index) in rows"
          :key="index"
          class="line d-flex gap-2 justify-content-center"
        >
          <div
            v-for="item in row.items"
            :key="item.kind"
            class="overflow-hidden position-relative"
            :data-hard="item.kind"
          >
            <MarkedPhoto
              :photo="item.photo"
              :width="(row.height * item.width) / item.height"
              :height="row.height"
              picture="proxy"
              :resize="null"
              :hide-mark="isMarkHidden"
            />
            <span
              class="caption number align-items-center d-flex start-0 pe-none position-absolute text-nowrap"
              :class="{ high: captionsHigh }"
              :title="`${item.photo.name}, ${HARD_WORDS[item.kind]}`"
            >
              <ReadingSign
                v-if="readings.of(item.id)"
                :kind="readings.of(item.id)?.class ?? 'lost'"
              />
              {{ item.kind }}
              <template v-if="readings.of(item.id)?.class">
                {{ percentText(readings.of(item.id)?.share ?? 0) }}
              </template>
            </span>
          </div>
        </div>
        <p v-if="isLoaded && all.length === 0" class="none text-center">
          Photos of your last batch stand here. <RouterLink to="/">Drop some first</RouterLink>
        </p>
      </div>
    </div>
    <BenchTray :frame="USUAL_PHOTO" @choose="choose" @saved="choose">
      <BenchPanel title="Preset">
        <template #end>{{
          draft.saved?.usedBy.length ? `for ${draft.saved.usedBy.join(', ')}` : ''
        }}</template>
        <MenuButton
          v-if="draft.saved"
          class="align-self-start"
          text="More"
          :label="`More for ${draft.saved.name}`"
          :entries="entries"
          placement="top-start"
        />
        <button
          class="btn btn-outline-secondary"
          type="button"
          :disabled="!draft.isDirty || !draft.saved"
          @click="draft.putBack"
        >
          Put back
        </button>
        <template #go>
          <BButton variant="primary" :disabled="!draft.isDirty" @click="save">
            {{ draft.isDirty ? 'Save' : 'Saved' }}
          </BButton>
        </template>
      </BenchPanel>
    </BenchTray>
    <EarlierVersions
      v-if="draft.saved && isLookingBack"
      v-slot="{ version }"
      v-model="isLookingBack"
      :name="draft.saved.name"
      :path="`/presets/${draft.saved.id}`"
      @taken="library.refreshPresets()"
    >
      <PresetPicture v-bind="pictureOf(version.value as EarlierPreset)" />
    </EarlierVersions>
  </div>
</template>

<style scoped>
.surround {
  display: grid;
  gap: 12px;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto minmax(0, 1fr);
  padding: 14px 18px 18px;
}

.wall {
  min-height: 0;
}

.caption {
  background: rgb(var(--lc-veil) / 90%);
  border-radius: 0 3px 0 0;
  bottom: 0;
  color: var(--lc-ink);
  font-size: 0.75rem;
  gap: 5px;
  padding: 2px 8px;
}

.caption.high {
  border-radius: 0 0 3px;
  bottom: auto;
  top: 0;
}

.none a {
  color: inherit;
}
</style>
