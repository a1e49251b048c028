<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import IconStar from '~icons/tabler/star';
import IconStarOn from '~icons/tabler/star-filled';
import type { DeliveryView, DeliveryWish, EarlierDelivery, PhotoView } from '#core/contract/http';
import type { DeliveryRule } from '#core/contract/delivery';
import { coherentRule } from '#core/delivery/coherentRule';
import { estimatedBytes } from '#core/delivery/estimatedBytes';
import { namePatternProblem, outputName } from '#core/delivery/namePattern';
import { resizeFrame } from '#core/delivery/resizeFrame';
import { freeName } from '#core/placement/suggestName';
import { bytesText } from '../ui/format.ts';
import { phrasesOf, sentenceOf, type Phrase } from './deliveryPhrases.ts';
import { presetsText } from '../preset/presetsText.ts';
import { useLibrary } from '../app/library.ts';
import { useNotices } from '../app/notices.ts';
import { useBin } from '../app/bin.ts';
import EarlierVersions from '../app/EarlierVersions.vue';
import { askName, namesBeside } from '../ui/ask.ts';
import TryOnPhoto from './TryOnPhoto.vue';
import MenuButton, { type MenuEntry } from '../ui/MenuButton.vue';
import DeliverySheet from './DeliverySheet.vue';
import PaperFigure from './PaperFigure.vue';

/** A delivery that reads like a sentence; each phrase is what one clicks to change it. */
const props = defineProps<{ delivery: DeliveryView; example: PhotoView | null; isNew: boolean }>();

const library = useLibrary();
const notices = useNotices();
const bin = useBin();
const isLookingBack = ref(false);
const open = ref<Phrase | null>(null);
// A new delivery asks for its name at once.
watch(
  () => props.isNew,
  (isNew) => isNew && void rename(),
  { immediate: true },
);

const rule = computed(() => props.delivery.rule);
const phrases = computed(() => phrasesOf(props.delivery, library));
const presetName = computed(() => presetsText([props.delivery.presetId], library));

/** Stands in while there is no photo to take the proportions from. */
const USUAL_PHOTO = { width: 6000, height: 4000 };
const exampleText = computed(() => {
  const photo = props.example;
  if (!photo || rule.value.kind !== 'files' || namePatternProblem(rule.value.name_pattern))
    return null;
  const frame = resizeFrame(photo, rule.value.resize);
  const name = outputName(rule.value.name_pattern, {
    name: photo.name.replace(/\.[^.]+$/, ''),
    number: 1,
    date: photo.capturedAt?.slice(0, 10) ?? '',
    batch: 'Batch',
    preset: presetName.value,
    delivery: props.delivery.name,
    ...frame,
  });
  const size = bytesText(estimatedBytes(frame, rule.value.file, photo));
  return `${name}, ${frame.width} × ${frame.height} px, about ${size}`;
});

function toggle(phrase: Phrase): void {
  open.value = open.value === phrase ? null : phrase;
}

function change(part: Partial<DeliveryWish>): void {
  library.changeDelivery(props.delivery.id, part);
}

function changeRule(part: Partial<DeliveryRule>): void {
  change({ rule: coherentRule(rule.value, part) });
}

async function rename(): Promise<void> {
  const { id, name: present } = props.delivery;
  const taken = namesBeside(library.deliveries, id);
  const name = await askName({
    title: 'Name of the delivery',
    name: present,
    action: 'Save',
    taken,
  });
  if (name !== null) change({ name });
}

function remove(): void {
  const { id, name } = props.delivery;
  void bin.discard({ kind: 'deliveries', id, name });
}

const entries: readonly MenuEntry[] = [
  { label: 'Rename', act: () => void rename() },
  { label: 'Duplicate', act: duplicate },
  { label: 'Earlier versions', act: () => (isLookingBack.value = true) },
  { label: 'Delete', act: remove },
];

function duplicate(): void {
  const { name, rule: same, ...rest } = props.delivery;
  const { presetId, overIds, folder, subfolder, zip, favourite } = rest;
  const names = library.deliveries.map((delivery) => delivery.name);
  void notices.attempt(() =>
    library.addDelivery({
      ...{ name: freeName(name, names), rule: same },
      ...{ presetId, overIds, folder, subfolder, zip, favourite },
    }),
  );
}
</script>

<template>
  <article class="card-plain delivery" :aria-label="delivery.name">
    <header class="align-items-center d-flex">
      <h2 class="text-truncate">{{ delivery.name }}</h2>
      <button
        class="star bg-transparent border-0 d-flex"
        type="button"
        :aria-pressed="delivery.favourite"
        :title="delivery.favourite ? 'A ticket on the start page' : 'Not on the start page'"
        :aria-label="`${delivery.name}: ticket on the start page`"
        @click="change({ favourite: !delivery.favourite })"
      >
        <IconStarOn v-if="delivery.favourite" /><IconStar v-else />
      </button>
      <MenuButton
        class="ms-auto"
        text="More"
        :label="`More for ${delivery.name}`"
        :entries="entries"
        placement="bottom-end"
      />
    </header>
    <div class="said d-flex">
      <p class="sentence serif flex-grow-1">
        <template v-for="{ phrase, before, text } in phrases" :key="phrase"
          >{{ before
          }}<button
            type="button"
            class="phrase p-0 text-start"
            :aria-expanded="open === phrase"
            @click="toggle(phrase)"
          >
            {{ text }}
          </button></template
        >.
      </p>
      <PaperFigure
        v-if="rule.kind === 'sheet'"
        :rule="rule.sheet"
        :photo="example ?? USUAL_PHOTO"
      />
    </div>
    <DeliverySheet
      v-if="open"
      :phrase="open"
      :delivery="delivery"
      @change="change"
      @rule="changeRule"
      @close="open = null"
    />
    <p v-if="exampleText" class="quiet number example">{{ exampleText }}</p>
    <TryOnPhoto v-if="example && rule.kind === 'files'" :delivery="delivery" :photo="example" />
    <EarlierVersions
      v-if="isLookingBack"
      v-slot="{ version }"
      v-model="isLookingBack"
      :name="delivery.name"
      :path="`/deliveries/${delivery.id}`"
      @taken="library.refreshDeliveries()"
    >
      <p class="serif px-3 pt-3 m-0">{{ sentenceOf(version.value as EarlierDelivery, library) }}</p>
    </EarlierVersions>
  </article>
</template>

<style scoped>
.delivery {
  border-left: 4px solid var(--lc-brass-light);
  display: grid;
  gap: 9px;
  padding: 16px 22px 16px 24px;
}

header {
  gap: 10px;
  min-width: 0;
}

.star {
  color: var(--lc-brass);
  padding: 3px;
}

.said {
  gap: 28px;
}

.sentence {
  font-size: 1.22rem;
  line-height: 1.62;
  overflow-wrap: anywhere;
}

.phrase {
  background: none;
  border: 0;
  border-bottom: 1.5px dotted var(--lc-brass-light);
  color: inherit;
  font: inherit;
  line-height: 1.25;
}

.phrase:hover,
.phrase[aria-expanded='true'] {
  background: var(--lc-brass-pale);
  border-bottom-style: solid;
}

.example {
  font-size: 0.8125rem;
  overflow-wrap: anywhere;
}
</style>
