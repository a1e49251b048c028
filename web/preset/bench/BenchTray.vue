<script setup lang="ts">
import { ref } from 'vue';
import type { Size } from '#core/placement/geometry';
import { useBenchKeys } from './useBenchKeys.ts';
import { useTones } from '../../mark/useTones.ts';
import BenchFrame from '../../ui/BenchFrame.vue';
import HelpSheet from './HelpSheet.vue';
import MarksRow from './MarksRow.vue';
import MarkPanel from './MarkPanel.vue';
import PlacePanel from './PlacePanel.vue';
import PresetBar from './PresetBar.vue';
import RepeatSheet from './RepeatSheet.vue';
import SizePanel from './SizePanel.vue';
import StrengthPanel from './StrengthPanel.vue';

/** The bench: what, where, how big, how strong, and in its slot what it is all for. */
defineProps<{ frame: Size }>();
defineEmits<{ choose: [id: number | null]; saved: [id: number] }>();

/** What is rarely used opens above the bench, one sheet at a time. */
const sheet = ref<'repeat' | 'help' | null>(null);
const toggle = (which: 'repeat' | 'help'): void => {
  sheet.value = sheet.value === which ? null : which;
};
const tones = useTones();
useBenchKeys(() => tones.value.map((option) => option.value));
</script>

<template>
  <BenchFrame
    columns="minmax(0, 0.92fr) minmax(294px, 1.25fr) minmax(0, 1.02fr) minmax(0, 1.05fr) minmax(0, 1.2fr)"
    columns-narrow="minmax(0, 0.8fr) 284px minmax(0, 0.92fr) minmax(0, 1.1fr) minmax(0, 1.15fr)"
    columns-wide="minmax(0, 1fr) minmax(294px, 1fr) minmax(0, 1.1fr) minmax(0, 1.1fr) minmax(0, 1fr)"
  >
    <template #sheet>
      <MarksRow />
      <slot name="sheet" />
      <RepeatSheet v-if="sheet === 'repeat'" @close="sheet = null" />
      <HelpSheet v-if="sheet === 'help'" @close="sheet = null" />
    </template>
    <template #bar>
      <PresetBar @choose="$emit('choose', $event)" @saved="$emit('saved', $event)">
        <slot name="bar" />
      </PresetBar>
    </template>
    <MarkPanel />
    <PlacePanel :frame="frame" :is-help-open="sheet === 'help'" @help="toggle('help')" />
    <SizePanel :frame="frame" />
    <StrengthPanel :frame="frame" :is-repeat-open="sheet === 'repeat'" @repeat="toggle('repeat')" />
    <slot />
  </BenchFrame>
</template>
