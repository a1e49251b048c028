<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { MarkView } from '#core/contract/http';
import type { ToneChoice } from '#core/contract/preset';
import { ACTION_SAFE, safeBox, TITLE_SAFE } from '#core/placement/titleSafe';
import { useLibrary } from '../app/library.ts';
import NumberField from '../ui/NumberField.vue';
import ToggleField from '../ui/ToggleField.vue';

/** A whole transparent frame with the mark where a preset puts it, to be laid over a video. */
const props = defineProps<{
  mark: MarkView;
  /** Null: the preset's. */
  tone: ToneChoice | null;
}>();
/** Where the picture is, or null while its size is none. */
const address = defineModel<string | null>('address', { required: true });

/** By use, not by any one service: screens, and what is held upright or square. */
const FRAMES = [
  { width: 1_920, height: 1_080, label: '1920 × 1080, wide' },
  { width: 3_840, height: 2_160, label: '3840 × 2160, wide' },
  { width: 1_080, height: 1_080, label: '1080 × 1080, square' },
  { width: 1_080, height: 1_350, label: '1080 × 1350, upright' },
  { width: 1_080, height: 1_920, label: '1080 × 1920, tall' },
] as const;
const OWN = 'own';
const SIDE = { least: 16, most: 8_192 } as const;

const library = useLibrary();
const frame = ref({ width: 1_920, height: 1_080 });
const isOwn = ref(false);
const showsGuides = ref(true);
const isBroken = ref(false);
/** Of this mark's presets the one that stands first. */
const presetId = ref(
  library.presets.find(({ markId }) => markId === props.mark.id)?.id ?? library.presets[0]?.id ?? 0,
);

const chosen = computed(() => {
  const { width, height } = frame.value;
  const index = FRAMES.findIndex((one) => one.width === width && one.height === height);
  return isOwn.value || index < 0 ? OWN : String(index);
});
const picture = computed(() => {
  const { width, height } = frame.value;
  const query = new URLSearchParams({
    ...{ width: String(width), height: String(height) },
    ...(props.tone === null ? {} : { tone: props.tone.replace('#', '') }),
    ...(presetId.value > 0 ? { preset: String(presetId.value) } : {}),
  });
  return `/api/marks/${props.mark.id}/frame?${query}`;
});
watch(
  picture,
  (path) => {
    isBroken.value = false;
    address.value = path;
  },
  { immediate: true },
);
const guides = computed(() =>
  [TITLE_SAFE, ACTION_SAFE].map((share) => ({ share, ...safeBox(frame.value, share) })),
);

function choose(value: string): void {
  isOwn.value = value === OWN;
  if (isOwn.value) return;
  const { width, height } = FRAMES[Number(value)];
  frame.value = { width, height };
}

const valueOf = (event: Event): string => (event.target as HTMLSelectElement).value;
</script>

<template>
  <div class="d-grid gap-2">
    <div class="stage" :style="{ aspectRatio: `${frame.width} / ${frame.height}` }">
      <img
        v-if="!isBroken"
        :src="picture"
        alt="The frame with the mark in it"
        @error="isBroken = true"
      />
      <p v-else class="quiet m-0">This frame cannot be drawn. Choose another size or preset.</p>
      <svg v-if="showsGuides" :viewBox="`0 0 ${frame.width} ${frame.height}`" aria-hidden="true">
        <rect
          v-for="{ share, x, y, width, height } in guides"
          :key="share"
          v-bind="{ x, y, width, height }"
        />
      </svg>
    </div>
    <div class="line align-items-center d-flex flex-wrap">
      <select
        class="form-select"
        aria-label="Size of the frame"
        :value="chosen"
        @change="choose(valueOf($event))"
      >
        <option v-for="({ label }, index) in FRAMES" :key="label" :value="String(index)">
          {{ label }}
        </option>
        <option :value="OWN">another size</option>
      </select>
      <template v-if="chosen === OWN">
        <NumberField
          v-model="frame.width"
          label="Width of the frame"
          unit="px"
          :min="SIDE.least"
          :max="SIDE.most"
          :decimals="0"
        />
        ×
        <NumberField
          v-model="frame.height"
          label="Height of the frame"
          unit="px"
          :min="SIDE.least"
          :max="SIDE.most"
          :decimals="0"
        />
      </template>
    </div>
    <div class="line align-items-center d-flex flex-wrap">
      <select
        v-model.number="presetId"
        class="form-select"
        aria-label="Where the mark lies"
        :disabled="library.presets.length === 0"
      >
        <option v-if="library.presets.length === 0" :value="0">low right</option>
        <option v-for="preset in library.presets" :key="preset.id" :value="preset.id">
          {{ preset.name }}
        </option>
      </select>
      <ToggleField
        v-model="showsGuides"
        label="title-safe guides"
        title="Words are safe within the inner line (90 %), what happens within the outer (93 %)"
      />
    </div>
  </div>
</template>

<style scoped>
.stage {
  background: linear-gradient(#51606b, #2b3a42 62%, #55503f 62%, #3c382c);
  display: grid;
  justify-self: center;
  max-height: 300px;
  max-width: 100%;
  overflow: hidden;
  place-items: center;
  position: relative;
}

.stage img {
  display: block;
  height: 100%;
  width: 100%;
}

.stage p {
  color: #fff;
  padding: 12px;
}

.stage svg {
  inset: 0;
  pointer-events: none;
  position: absolute;
}

.stage rect {
  fill: none;
  stroke: rgb(255 255 255 / 70%);
  stroke-dasharray: 6 5;
  vector-effect: non-scaling-stroke;
}

.line {
  gap: 8px 12px;
}

.form-select {
  width: auto;
}
</style>
