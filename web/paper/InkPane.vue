<script setup lang="ts">
import { computed, ref } from 'vue';
import { clamp, type Size } from '#core/placement/geometry';
import type { Lift } from './useLift.ts';
import { usePhotoGround } from './usePhotoGround.ts';
import PickOne from '../ui/PickOne.vue';
import BitmapCanvas from '../ui/BitmapCanvas.vue';
import { GROUNDS, HANDS, type Ground, type Hand } from './inkChoices.ts';
import HandBrush from './HandBrush.vue';
import PaneFrame from './PaneFrame.vue';

/** The lifted ink on grounds that show it, with a hand to rub out or bring back parts. */
const props = defineProps<{ lift: Lift }>();

/** Bounds of a brush's radius as a share of the crop's longer side (contract/lift). */
const LEAST_RADIUS = 0.000_5;
const MOST_RADIUS = 0.2;
/** More rings than this are a pattern, not a hint. */
const MOST_RINGS = 400;

const ground = ref<Ground>('light');
const hand = ref<Hand>('look');
const showsSpecks = ref(false);
const photo = usePhotoGround();

const look = computed(() => props.lift.look.value);
const ink = computed(() => look.value?.ink ?? null);
const isInverted = computed(
  () =>
    (ground.value === 'dark' || ground.value === 'photo') &&
    props.lift.settings.value.colours === 'one',
);
const specks = computed(() =>
  (showsSpecks.value ? (ink.value?.specks ?? []) : []).slice(0, MOST_RINGS),
);

/** CSS px for a px of the desk's copy. */
function scaleFor(shown: Size): number {
  return look.value ? shown.width / look.value.crop.width : 1;
}

function placed(box: { x: number; y: number } & Size, shown: Size) {
  const scale = scaleFor(shown);
  return {
    left: `${box.x * scale}px`,
    top: `${box.y * scale}px`,
    width: `${box.width * scale}px`,
    height: `${box.height * scale}px`,
  };
}

/** The whole sheet, so that its crop lies where the ink is shown. */
function sheetPlace(shown: Size) {
  const { crop, sheet } = look.value ?? {};
  return crop && sheet ? placed({ x: -crop.x, y: -crop.y, ...sheet }, shown) : {};
}

/** @param points CSS px within the crop */
function addStroke(points: readonly number[], radiusPx: number, shown: Size): void {
  const bounds = look.value;
  const does = hand.value;
  if (!bounds || does === 'look') return;
  const { crop, sheet } = bounds;
  const scale = scaleFor(shown);
  const places = points.map((value, at) =>
    at % 2 === 0 ? (crop.x + value / scale) / sheet.width : (crop.y + value / scale) / sheet.height,
  );
  const share = radiusPx / Math.max(shown.width, shown.height);
  const radius = clamp(share, LEAST_RADIUS, MOST_RADIUS);
  const { strokes } = props.lift.settings.value;
  props.lift.change({ strokes: [...strokes, { does, radius, points: places }] });
}
</script>

<template>
  <PaneFrame title="Ink" :shape="look?.crop ?? null">
    <template #head>
      <PickOne v-model="ground" label="Ground behind the ink" :options="GROUNDS" />
    </template>
    <template #default="{ shown }">
      <div
        class="ground"
        :class="ground"
        :style="{
          width: `${shown.width}px`,
          height: `${shown.height}px`,
          backgroundImage: ground === 'photo' && photo ? `url(${photo})` : undefined,
        }"
      >
        <div v-if="ground === 'paper'" class="sheet" :style="sheetPlace(shown)">
          <BitmapCanvas
            :bitmap="lift.pictures.value?.sheet ?? null"
            label="The scan under the outlines"
          />
        </div>
        <div
          v-if="ink"
          class="ink"
          :class="{ inverted: isInverted }"
          :style="placed(ink.box, shown)"
        >
          <BitmapCanvas v-show="ground !== 'paper'" :bitmap="ink.bitmap" label="The lifted ink" />
          <svg
            v-if="ground === 'paper' && lift.outlines.value"
            :viewBox="`0 0 ${ink.box.width} ${ink.box.height}`"
            preserveAspectRatio="none"
            aria-hidden="true"
          >
            <path :d="lift.outlines.value.path" vector-effect="non-scaling-stroke" />
          </svg>
        </div>
        <p v-else class="none start-0 position-absolute end-0 text-center">
          No ink is found here. Pick it with the ink dropper.
        </p>
        <i
          v-for="(speck, index) in specks"
          :key="index"
          class="ring rounded-circle pe-none"
          :style="{
            left: `${(speck.box.x + speck.box.width / 2) * scaleFor(shown)}px`,
            top: `${(speck.box.y + speck.box.height / 2) * scaleFor(shown)}px`,
          }"
        />
        <HandBrush
          v-if="hand !== 'look'"
          :does="hand"
          :shown="shown"
          @stroke="(points, radiusPx) => addStroke(points, radiusPx, shown)"
        />
      </div>
    </template>
    <template #foot>
      <PickOne v-model="hand" label="What a hand on the ink does" :options="HANDS" />
      <label class="specks">
        <input v-model="showsSpecks" class="form-check-input" type="checkbox" />
        Show removed
      </label>
      <span class="end number">
        <template v-if="lift.step.value">{{ lift.step.value }}…</template>
        <template v-else-if="ink">
          {{ ink.box.width }} × {{ ink.box.height }} px<span class="of-ink">{{ ' of ink' }}</span>
        </template>
      </span>
    </template>
  </PaneFrame>
</template>

<style scoped>
.ground {
  background-position: center;
  background-size: cover;
  flex: none;
  overflow: hidden;
  position: relative;
  transition: background-color var(--lc-quick);
}

.ground.light {
  background-color: #f3efe6;
}

.ground.dark {
  background-color: #1d2c34;
}

.ground.photo {
  background-color: #33434b;
}

.ground.coverage {
  background-color: #fff;
}

.sheet,
.ink {
  position: absolute;
}

.ink.inverted {
  filter: invert(1);
}

.ink svg {
  height: 100%;
  inset: 0;
  overflow: visible;
  position: absolute;
  width: 100%;
}

path {
  fill: rgb(185 138 62 / 22%);
  stroke: #d8402a;
  stroke-width: 1.4;
}

.ring {
  border: 1.5px solid var(--lc-lost);
  height: 15px;
  margin: -7.5px 0 0 -7.5px;
  position: absolute;
  width: 15px;
}

.none {
  color: #52676f;
  padding: 0 20px;
  top: calc(50% - 12px);
}

.ground.dark .none {
  color: #d7d2c4;
}

.specks {
  align-items: center;
  display: flex;
  gap: 6px;
}

.specks input {
  margin: 0;
}

@media (max-width: 1160px) {
  .of-ink {
    display: none;
  }
}

.end {
  margin-left: auto;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
