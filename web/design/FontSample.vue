<script setup lang="ts">
import { computed } from 'vue';
import { letteringSchema } from '#core/contract/design';
import type { FontView } from '#core/contract/http';
import { setLettering } from '#core/lettering/setLettering';
import { pathText } from '#core/path/path';
import { pathBox } from '#core/path/pathBox';
import { exampleWords } from '#core/lettering/photoWords';
import { thisYear } from '../mark/markPicture.ts';
import { useFonts } from './fonts.ts';

/** Words in a font, as they will be drawn. */
const props = defineProps<{ family: FontView; text: string }>();
const fonts = useFonts();

const set = computed(() => {
  const { weight, italic } = props.family.faces[0] ?? { weight: 400, italic: false };
  const font = { family: props.family.id, weight, italic };
  const face = fonts.face(font);
  if (!face) return null;
  const lettering = letteringSchema.parse({ text: props.text, font, align: 'left' });
  const path = setLettering(lettering, face, exampleWords(thisYear()));
  const box = pathBox(path);
  if (!box) return null;
  return { d: pathText(path), viewBox: `${box.x} ${box.y} ${box.width} ${box.height}` };
});
</script>

<template>
  <svg v-if="set" :viewBox="set.viewBox" preserveAspectRatio="xMinYMid meet" aria-hidden="true">
    <path :d="set.d" />
  </svg>
  <span v-else />
</template>

<style scoped>
svg {
  fill: var(--lc-ink);
  max-width: 100%;
}
</style>
