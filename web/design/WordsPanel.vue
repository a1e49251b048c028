<script setup lang="ts">
import { computed, nextTick, ref } from 'vue';
import type { Lettering, LayerOf } from '#core/contract/design';
import { filledText, tokensOf, withoutTokens, WORD_TOKENS } from '#core/lettering/words';
import { useDesk } from './useDesk.ts';
import { useFonts } from './fonts.ts';
import { useLibrary } from '../app/library.ts';
import BenchPanel from '../ui/BenchPanel.vue';
import MenuButton from '../ui/MenuButton.vue';
import { thisYear } from '../mark/markPicture.ts';
import { TOKEN_WORDS } from './wordTokens.ts';

/** The words themselves, signs at a click, and the font they are set in. */
const props = defineProps<{ layer: LayerOf<'lettering'>; sheet: string | null }>();
defineEmits<{ fonts: []; setting: [] }>();

const desk = useDesk();
const fonts = useFonts();
const library = useLibrary();
const field = ref<HTMLTextAreaElement | null>(null);

const SIGNS = ['©', '®', '™', '·', '–'] as const;

const lettering = computed(() => props.layer.lettering);
const family = computed(() => fonts.familyOf(lettering.value.font.family));
const weights = computed(() => [...new Set(family.value?.faces.map(({ weight }) => weight) ?? [])]);
const hasItalic = computed(() => {
  const slants = new Set(family.value?.faces.map(({ italic }) => italic) ?? []);
  return slants.size > 1;
});
const missing = computed(() => {
  const face = fonts.face(lettering.value.font);
  const signs = face?.missing(withoutTokens(lettering.value.text)) ?? [];
  return signs.length > 0 ? `This font has no ${signs.join(' ')}` : null;
});

/** Each with what it comes to on the photo that stands for all. */
const photoEntries = WORD_TOKENS.map((token) => ({
  label: `${TOKEN_WORDS[token]}: ${desk.words.value[token]}`,
  act: () => void insert(`{${token}}`),
}));
const example = computed(() => {
  const { text } = lettering.value;
  return tokensOf({ text }).length > 0 ? filledText(text, desk.words.value) : '';
});

function set(name: string, part: Partial<Lettering>): void {
  const next = { ...lettering.value, ...part };
  // A layer is called what it says, until it is given a name.
  const isNamedByWords = props.layer.name === nameOf(lettering.value.text);
  desk.changeLayer(name, {
    ...props.layer,
    lettering: next,
    name: isNamedByWords ? nameOf(next.text) : props.layer.name,
  });
}

function nameOf(text: string): string {
  return text.replaceAll('\n', ' ').slice(0, 120);
}

function write(event: Event): void {
  set('Words', { text: (event.target as HTMLTextAreaElement).value });
}

/** Where the cursor is, or over what is selected. */
async function insert(sign: string): Promise<void> {
  const { text } = lettering.value;
  const from = field.value?.selectionStart ?? text.length;
  const to = field.value?.selectionEnd ?? from;
  set(`Insert ${sign}`, {
    text: text.slice(0, from) + sign + text.slice(to),
  });
  await nextTick();
  field.value?.focus();
  field.value?.setSelectionRange(from + sign.length, from + sign.length);
}

function setFont(part: Partial<Lettering['font']>): void {
  set('Font', { font: { ...lettering.value.font, ...part } });
}

defineExpose({ missing });
</script>

<template>
  <BenchPanel title="Words">
    <template #end>
      <span v-if="missing" class="missing" role="alert">{{ missing }}</span>
      <span v-else-if="example" class="example" :title="`On a photo such as ${example}`">
        such as {{ example }}
      </span>
    </template>
    <textarea
      ref="field"
      class="form-control words"
      rows="2"
      aria-label="Words"
      :value="layer.lettering.text"
      maxlength="400"
      @input="write"
    />
    <div class="signs d-flex flex-wrap overflow-hidden">
      <button
        v-for="sign in SIGNS"
        :key="sign"
        type="button"
        class="sign"
        :aria-label="`Insert ${sign}`"
        @click="insert(sign)"
      >
        {{ sign }}
      </button>
      <MenuButton
        class="of-photo"
        text="Of the photo"
        label="Words of the photo, filled in on each"
        placement="top-start"
        :entries="photoEntries"
      />
      <button
        type="button"
        class="sign word"
        title="This year, as it is"
        @click="insert(String(thisYear()))"
      >
        {{ thisYear() }}
      </button>
      <button
        v-if="library.settings.name"
        type="button"
        class="sign word"
        :title="library.settings.name"
        @click="insert(library.settings.name)"
      >
        Name
      </button>
      <button
        v-if="library.settings.copyright"
        type="button"
        class="sign word"
        :title="library.settings.copyright"
        @click="insert(library.settings.copyright)"
      >
        Copyright
      </button>
    </div>
    <div class="font">
      <button
        type="button"
        class="btn btn-outline-secondary family text-truncate text-start"
        :aria-expanded="sheet === 'fonts'"
        @click="$emit('fonts')"
      >
        {{ family?.name ?? 'Font not at hand' }}
      </button>
      <select
        v-if="weights.length > 1"
        class="form-select weight"
        aria-label="Weight"
        :value="lettering.font.weight"
        @change="setFont({ weight: Number(($event.target as HTMLSelectElement).value) })"
      >
        <option v-for="weight in weights" :key="weight" :value="weight">{{ weight }}</option>
      </select>
      <button
        v-if="hasItalic"
        type="button"
        class="btn btn-outline-secondary italic"
        aria-label="Italic"
        title="Italic"
        :aria-pressed="lettering.font.italic"
        @click="setFont({ italic: !lettering.font.italic })"
      >
        I
      </button>
      <button
        type="button"
        class="btn btn-outline-secondary"
        :aria-expanded="sheet === 'setting'"
        title="Spacing, alignment, case, a line, an arc"
        @click="$emit('setting')"
      >
        Setting
      </button>
    </div>
  </BenchPanel>
</template>

<style scoped>
.words {
  line-height: 1.35;
  min-height: 46px;
  resize: none;
}

.signs {
  gap: 2px;
  height: 26px;
  margin-left: -5px;
}

.sign {
  background: none;
  border: 0;
  border-radius: 3px;
  color: var(--lc-ink);
  min-width: 22px;
  padding: 2px 5px;
}

.sign.word {
  font-size: 0.8125rem;
}

.sign:hover {
  background: var(--lc-paper-deep);
}

.font {
  display: flex;
  gap: 6px;
}

.family {
  flex: 1;
  min-width: 0;
}

.weight {
  width: 74px;
}

.italic {
  font-family: var(--lc-serif);
  font-style: italic;
  width: 34px;
}

[aria-pressed='true'],
[aria-expanded='true'] {
  background: var(--lc-paper-deep);
  border-color: var(--lc-line);
}

.missing {
  color: var(--lc-lost-deep);
}
</style>
