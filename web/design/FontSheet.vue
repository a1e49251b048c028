<script setup lang="ts">
import { computed, nextTick, onMounted, ref } from 'vue';
import type { LayerOf } from '#core/contract/design';
import type { FontView } from '#core/contract/http';
import { linesOf } from '#core/lettering/words';
import { useDesk } from './useDesk.ts';
import { useFonts } from './fonts.ts';
import { useNotices } from '../app/notices.ts';
import FontSample from './FontSample.vue';

/** One's own words in each font; typing filters, the arrow keys move, and the mark changes along. */
const props = defineProps<{ layer: LayerOf<'lettering'> }>();
const emit = defineEmits<{ close: [] }>();

const desk = useDesk();
const fonts = useFonts();
const notices = useNotices();
const search = ref('');
const file = ref<HTMLInputElement | null>(null);
const field = ref<HTMLInputElement | null>(null);
const list = ref<HTMLElement | null>(null);

const KIND_WORDS = {
  hand: 'hand signature script',
  serif: 'serif book',
  sans: 'sans plain',
  own: 'own added',
} as const;
const KIND_LABELS = { hand: 'hand', serif: 'serif', sans: 'sans', own: 'own' } as const;
const COLUMNS = 3;

const found = computed(() => {
  const wanted = search.value.trim().toLowerCase().split(/\s+/).filter(Boolean);
  return fonts.families.filter(({ name, kind, words }) => {
    const text = `${name} ${KIND_WORDS[kind]} ${words}`.toLowerCase();
    return wanted.every((word) => text.includes(word));
  });
});
const current = computed(() => props.layer.lettering.font.family);
const sample = computed(() => {
  const [first] = linesOf(props.layer.lettering, desk.words.value);
  return first.trim() === '' ? 'Your words' : first;
});

onMounted(async () => {
  field.value?.focus();
  await nextTick();
  showCurrent();
});

function choose(family: FontView): void {
  const { lettering } = props.layer;
  const font = { ...lettering.font, family: family.id };
  desk.changeLayer('Font', { ...props.layer, lettering: { ...lettering, font } });
}

const STEPS: Readonly<Record<string, number>> = {
  ArrowDown: COLUMNS,
  ArrowUp: -COLUMNS,
  ArrowRight: 1,
  ArrowLeft: -1,
};

function key(event: KeyboardEvent): void {
  if (event.key === 'Escape' || event.key === 'Enter') {
    event.preventDefault();
    emit('close');
    return;
  }
  const isInText = event.target === field.value && search.value !== '';
  const sideways = event.key === 'ArrowLeft' || event.key === 'ArrowRight';
  const by = STEPS[event.key];
  if (!by || (isInText && sideways) || found.value.length === 0) return;
  event.preventDefault();
  const at = found.value.findIndex(({ id }) => id === current.value);
  const next = at < 0 ? 0 : Math.min(Math.max(at + by, 0), found.value.length - 1);
  choose(found.value[next]);
  void nextTick(showCurrent);
}

function showCurrent(): void {
  list.value?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' });
}

function add(event: Event): void {
  const input = event.target as HTMLInputElement;
  const files = [...(input.files ?? [])];
  input.value = '';
  void notices.attempt(async () => {
    let last: FontView | null = null;
    for (const some of files) last = await fonts.add(some);
    if (last) choose(last);
  });
}

function remove(family: FontView): void {
  void notices.attempt(async () => {
    await fonts.remove(family.id);
    notices.done(`${family.name} is taken away. Marks set in it keep their outlines.`);
  });
}
</script>

<template>
  <section class="sheet" aria-label="Fonts" @keydown="key">
    <header class="align-items-center d-flex mb-2">
      <input
        ref="field"
        v-model="search"
        class="form-control search"
        type="search"
        placeholder="Name or kind: hand, serif, sans"
        aria-label="Search fonts"
      />
      <span class="quiet">Arrow keys move; the mark changes along.</span>
      <button class="btn btn-link end" type="button" @click="file?.click()">Add a font</button>
      <button class="btn btn-outline-secondary" type="button" @click="$emit('close')">Done</button>
      <input
        ref="file"
        class="visually-hidden-input"
        type="file"
        multiple
        accept=".ttf,.otf,.woff2"
        tabindex="-1"
        aria-label="Font file"
        @change="add"
      />
    </header>
    <p v-if="found.length === 0" class="quiet none">No font is called that.</p>
    <div
      ref="list"
      class="list d-grid overflow-auto"
      role="listbox"
      aria-label="Fonts"
      tabindex="0"
    >
      <div
        v-for="family in found"
        :key="family.id"
        class="font"
        role="option"
        :aria-selected="family.id === current"
        :aria-label="family.name"
        @click="choose(family)"
      >
        <FontSample class="sample" :family="family" :text="sample" />
        <span class="label align-items-baseline d-flex justify-content-between">
          <span class="name">{{ family.name }}</span>
          <span class="quiet">{{ KIND_LABELS[family.kind] }}</span>
          <button
            v-if="family.kind === 'own'"
            class="btn btn-link take"
            type="button"
            @click.stop="remove(family)"
          >
            Take away
          </button>
        </span>
      </div>
    </div>
  </section>
</template>

<style scoped>
.sheet {
  background: var(--lc-paper);
  border-bottom: 1px solid var(--lc-hairline);
  padding: 10px 18px 12px;
}

header {
  gap: 14px;
}

.search {
  width: 260px;
}

.end {
  margin-left: auto;
}

.list {
  gap: 6px;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  max-height: 246px;
  padding: 2px;
}

.font {
  background: var(--lc-card);
  border: 1px solid var(--lc-hairline);
  border-radius: var(--lc-radius);
  cursor: pointer;
  display: grid;
  padding: 6px 12px 5px;
}

.font:hover {
  border-color: var(--lc-line);
}

.font[aria-selected='true'] {
  border-color: var(--lc-brass-light);
  box-shadow: 0 0 0 1px var(--lc-brass-light);
}

.sample {
  height: 40px;
  margin-bottom: 5px;
}

.label {
  font-size: 0.8125rem;
  gap: 10px;
}

.take {
  font-size: 0.8125rem;
  padding: 0;
}

.none {
  padding: 12px 2px;
}
</style>
