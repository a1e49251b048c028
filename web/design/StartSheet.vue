<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import type { Design, Parts } from '#core/contract/design';
import type { DesignView, MarkView } from '#core/contract/http';
import { NAME_MAX_LENGTH } from '#core/contract/preset';
import { ARRANGEMENTS, arranged } from '#core/design/arrangements';
import type { DrawContext } from '#core/design/context';
import { markToSvg } from '#core/design/markToSvg';
import { freeName } from '#core/placement/suggestName';
import { api } from '../api/client.ts';
import { newLayerId } from './useDesk.ts';
import { useFonts } from './fonts.ts';
import { useLibrary } from '../app/library.ts';
import { useNotices } from '../app/notices.ts';
import { exampleWords } from '#core/lettering/photoWords';
import { thisYear } from '../mark/markPicture.ts';

/** Somewhere to begin: one's own name in a few arrangements, rather than an empty page. */
const library = useLibrary();
const fonts = useFonts();
const notices = useNotices();
const router = useRouter();

const name = ref('');
const parts = shallowRef<Parts>({});
const crest = shallowRef<{ part: string; name: string } | null>(null);
const isReady = ref(false);
const isBeginning = ref(false);

const context = computed<DrawContext>(() => ({
  words: exampleWords(thisYear()),
  face: fonts.face,
  part: (key) => parts.value[key] ?? null,
}));
const shownName = computed(() => name.value.trim() || 'Your name');

const begun = computed(() =>
  ARRANGEMENTS.map(({ key, label }) => {
    const beginning = { name: shownName.value, crest: crest.value, newId: newLayerId };
    const design = arranged(key, beginning, context.value);
    const drawn = markToSvg(design, 'original', context.value);
    const picture = drawn.ok
      ? `data:image/svg+xml;charset=utf-8,${encodeURIComponent(drawn.value.svg)}`
      : '';
    return { key, label, design, picture };
  }),
);

onMounted(async () => {
  await notices.attempt(async () => {
    await Promise.all([fonts.load(), library.load()]);
    name.value = library.settings.name;
    await takeCrest();
    // All fonts of the arrangements are opened before anything is shown.
    await Promise.all(begun.value.map(({ design }) => fonts.openFor(design)));
  });
  isReady.value = true;
});

/** The logo of the library that is nearest to a square, to stand beside the name. */
async function takeCrest(): Promise<void> {
  const wide = ({ ink }: MarkView): number => Math.abs(Math.log(ink.width / ink.height));
  const [logo] = library.marks
    .filter((mark) => !mark.retired && mark.origin === 'file' && mark.kind === 'svg')
    .sort((a, b) => wide(a) - wide(b));
  if (!logo) return;
  const view = await api.get<DesignView>(`/marks/${logo.id}/design`);
  const [layer] = view.design.layers;
  if (layer?.kind !== 'artwork') return;
  parts.value = view.parts;
  crest.value = { part: layer.part, name: logo.name };
}

function begin(label: string, design: Design): void {
  if (isBeginning.value) return;
  isBeginning.value = true;
  void notices
    .attempt(async () => {
      const taken = library.marks.map((mark) => mark.name);
      const wished = `${shownName.value}, ${label.toLowerCase()}`.slice(0, NAME_MAX_LENGTH);
      const body = { name: freeName(wished, taken), design };
      const mark = await api.post<MarkView>('/designs', body);
      library.takeMark(mark);
      await router.replace(`/marks/${mark.id}/design`);
    })
    .finally(() => (isBeginning.value = false));
}
</script>

<template>
  <div class="page">
    <header class="page-head">
      <h1>Compose a mark</h1>
      <label class="name">
        <span class="quiet">with the name</span>
        <input
          v-model="name"
          class="form-control"
          aria-label="Name on the mark"
          maxlength="80"
          placeholder="Your name"
        />
      </label>
    </header>
    <p class="about quiet">Begin from one of these. Everything in it can be changed afterwards.</p>
    <ul v-if="isReady" class="arrangements list-unstyled d-grid m-0">
      <li v-for="{ key, label, design, picture } in begun" :key="key">
        <button
          type="button"
          class="card-plain"
          :disabled="isBeginning"
          @click="begin(label, design)"
        >
          <span class="picture align-items-center d-flex justify-content-center"
            ><img :src="picture" alt="" draggable="false"
          /></span>
          <span class="label">{{ label }}</span>
        </button>
      </li>
    </ul>
    <ul
      v-else
      class="arrangements list-unstyled d-grid m-0"
      aria-busy="true"
      aria-label="Opening the fonts"
    >
      <li v-for="{ key } in ARRANGEMENTS" :key="key" class="card-plain waiting" />
    </ul>
  </div>
</template>

<style scoped>
.name {
  align-items: center;
  display: flex;
  gap: 10px;
}

.name input {
  max-width: 280px;
  min-width: 0;
}

.about {
  margin: -6px 0 22px;
}

.arrangements {
  gap: 22px;
  grid-template-columns: repeat(auto-fit, minmax(min(420px, 100%), 1fr));
  max-width: 1500px;
}

button {
  display: grid;
  overflow: hidden;
  padding: 0;
  text-align: left;
  width: 100%;
}

button:hover {
  border-color: var(--lc-brass-light);
}

.picture {
  background: #e4ddcd;
  height: 216px;
  padding: 26px 40px;
}

img {
  max-height: 100%;
  max-width: 100%;
}

.label {
  font-family: var(--lc-serif);
  font-size: 1.1rem;
  padding: 11px 18px 13px;
}

.waiting {
  height: 266px;
  opacity: 0.5;
}
</style>
