<script setup lang="ts">
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { computed } from 'vue';
import { classOf } from '#core/readability/measure';
import { useThemeColours } from '../app/useTheme.ts';
import { counted } from '../ui/format.ts';
import ShareBars from './ShareBars.vue';

/** How many photos have how much of the mark's ink readable, and how strong a quiet mark is on them. */
const props = defineProps<{
  shares: readonly number[];
  /** By photo; empty where all have one. */
  opacities: readonly number[];
}>();
const isOpen = defineModel<boolean>({ required: true });

const colours = useThemeColours();
const known = computed(() => props.shares.filter((share) => share >= 0));
const strengths = computed(() => props.opacities.filter((opacity) => !Number.isNaN(opacity)));
</script>

<template>
  <BModal
    v-model="isOpen"
    title-tag="h2"
    title="How much of the mark can be read"
    size="lg"
    centered
    no-footer
  >
    <p class="quiet">
      {{ counted(known.length, 'photo') }}, each by the share of the mark that stands out from the
      photo round it. From 90 % on a mark is clear, if each part of it reads; from 60 % faint, below
      that lost.
    </p>
    <template v-if="isOpen">
      <ShareBars
        :shares="known"
        label="On how many photos how much of the mark can be read"
        of="of the mark can be read"
        :colour-of="(share) => colours[classOf(share, 1)]"
      />
      <template v-if="strengths.length > 0">
        <h3 class="minor mt-3">How strong the mark is</h3>
        <ShareBars
          :shares="strengths"
          label="On how many photos the mark is how strong"
          of="strong"
          :colour-of="() => colours['ink-quiet']"
        />
      </template>
    </template>
  </BModal>
</template>
