<script setup lang="ts">
import { SHOW_MARKS, type ShowRule } from '#core/contract/show';
import PickOne from '../ui/PickOne.vue';
import { SHOW_MARK_TEXTS } from './showText.ts';

/** Where the mark of a show is: on its photos, or on the screen that they come and go on. */
const rule = defineModel<ShowRule>({ required: true });

const MARKS = SHOW_MARKS.map((value) => ({ value, label: SHOW_MARK_TEXTS[value] }));
</script>

<template>
  <PickOne
    label="Where the mark is"
    :options="MARKS"
    :model-value="rule.mark_on"
    @update:model-value="rule = { ...rule, mark_on: $event }"
  />
  <span v-if="rule.mark_on === 'screen'" class="quiet"
    >its place, size and strength are the preset’s, on the screen in place of the photo</span
  >
</template>
