<script setup lang="ts">
import { computed, ref } from 'vue';
import type { HandStroke } from '#core/contract/lift';
import { clamp } from '#core/placement/geometry';
import type { Lift } from '../../composables/useLift.ts';
import { usePhotoGround } from '../../composables/usePhotoGround.ts';
import PickOne from '../PickOne.vue';
import BitmapCanvas from './BitmapCanvas.vue';
import { useFit } from './useFit.ts';

/** The lifted ink on grounds that show it, with a hand to rub out or keep parts. */
const props = defineProps<{ lift: Lift }>();

type Ground = 'light' | 'dark' | 'photo' | 'coverage' | 'paper';
const GROUNDS: readonly { value: Ground; label: string; title: string }[] = [
  { value: 'light', label: 'Light', title: 'Dark ink on a light ground' },
  { value: 'dark', label: 'Dark', title: 'Light ink on a dark ground' },
  { value: 'photo', label: 'Photo', title: 'Light ink on one of your photos' },
  { value: 'coverage', label: 'Coverage', title: 'How much of each pixel the ink covers, in grey' },
  { value: 'paper', label: 'Over the paper', title: 'The outlines over the scan' },
];
type Hand = 'look' | HandStroke['does'];
const HANDS: readonly { value: Hand; label: string; title: string }[] = [
  { value: 'look', label: 'Look', title: 'The hand does nothing' },
  { value: 'rub', label: 'Rub out', title: 'Take ink away by hand' },
  { value: 'keep', label: 'Bring back', title: 'Bring back what was taken for a speck' },
];
/** Radius of the hand's brush, CSS px. */
const BRUSH_PX = 12;
const KEY_STEP_PX = 6;
/** Points closer than this, CSS px, say nothing new. */
const POINT_APART_PX = 3;
/** More rings than this are a pattern, not a hint. */
const MOST_RINGS = 400;

const ground = ref<Ground>('light');
const hand = ref<Hand>('look');
const showsSpecks = ref(false);
const stage = ref<HTMLElement | null>(null);
const photo = usePhotoGround();

const look = computed(() => props.lift.look.value);
const ink = computed(() => look.value?.ink ?? null);
const shown = useFit(stage, () => look.value?.crop ?? null);
/** CSS px for a px of the desk's copy. */
const scale = computed(() => (look.value ? shown.value.width / look.value.crop.width : 1));
const place = computed(() => {
  const box = ink.value?.box;
  if (!box) return {};
  return {
    left: `${box.x * scale.value}px`,
    top: `${box.y * scale.value}px`,
    width: `${box.width * scale.value}px`,
    height: `${box.height * scale.value}px`,
  };
});
const keepsColours = computed(() => props.lift.settings.value.colours === 'keep');
const isInverted = computed(
  () => (ground.value === 'dark' || ground.value === 'photo') && !keepsColours.value,
);
const sheetStyle = computed(() => {
  const bounds = look.value;
  if (!bounds) return {};
  return {
    left: `${-bounds.crop.x * scale.value}px`,
    top: `${-bounds.crop.y * scale.value}px`,
    width: `${bounds.sheet.width * scale.value}px`,
    height: `${bounds.sheet.height * scale.value}px`,
  };
});
const rings = computed(() =>
  (showsSpecks.value ? (ink.value?.specks ?? []) : []).slice(0, MOST_RINGS),
);

const stroke = ref<number[]>([]);
const cursor = ref({ x: 0.5, y: 0.5 });

/** From CSS px within the crop to a share of the sheet. */
function sheetPlace(x: number, y: number): [number, number] {
  const bounds = look.value;
  if (!bounds) return [0, 0];
  return [
    (bounds.crop.x + x / scale.value) / bounds.sheet.width,
    (bounds.crop.y + y / scale.value) / bounds.sheet.height,
  ];
}

function begin(event: PointerEvent): void {
  if (hand.value === 'look') return;
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  stroke.value = [...placeOf(event)];
}

function go(event: PointerEvent): void {
  if (stroke.value.length === 0) return;
  const [x, y] = placeOf(event);
  const [lastX, lastY] = stroke.value.slice(-2);
  const apart = Math.hypot(x - lastX, y - lastY);
  if (apart >= POINT_APART_PX) stroke.value = [...stroke.value, x, y];
}

function end(): void {
  if (stroke.value.length > 0) add(stroke.value);
  stroke.value = [];
}

function placeOf(event: PointerEvent): [number, number] {
  const frame = (event.currentTarget as HTMLElement).getBoundingClientRect();
  return [event.clientX - frame.left, event.clientY - frame.top];
}

/** @param points CSS px within the crop */
function add(points: readonly number[]): void {
  const does = hand.value;
  if (does === 'look') return;
  const places: number[] = [];
  for (let at = 0; at + 1 < points.length; at += 2) {
    places.push(...sheetPlace(points[at], points[at + 1]));
  }
  const longSide = Math.max(shown.value.width, shown.value.height);
  const radius = clamp(BRUSH_PX / longSide, 0.000_5, 0.2);
  const { strokes } = props.lift.settings.value;
  props.lift.change({ strokes: [...strokes, { does, radius, points: places }] });
}

const KEYS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

function key(event: KeyboardEvent): void {
  if (hand.value === 'look') return;
  const way = KEYS[event.key];
  const { width, height } = shown.value;
  if (way) {
    const times = event.shiftKey ? 5 : 1;
    cursor.value = {
      x: clamp(cursor.value.x + (way[0] * times * KEY_STEP_PX) / width, 0, 1),
      y: clamp(cursor.value.y + (way[1] * times * KEY_STEP_PX) / height, 0, 1),
    };
  } else if (event.key === ' ') {
    add([cursor.value.x * width, cursor.value.y * height]);
  } else return;
  event.preventDefault();
  event.stopPropagation();
}

const strokeLine = computed(() => {
  const pairs: string[] = [];
  for (let at = 0; at + 1 < stroke.value.length; at += 2) {
    pairs.push(`${stroke.value[at]},${stroke.value[at + 1]}`);
  }
  return pairs.join(' ');
});
</script>

<template>
  <section class="pane" aria-label="Ink">
    <header>
      <h2 class="minor">Ink</h2>
      <PickOne v-model="ground" label="Ground behind the ink" :options="GROUNDS" />
    </header>
    <div ref="stage" class="stage">
      <div
        v-if="look"
        class="ground"
        :class="[ground, { working: hand !== 'look' }]"
        :style="{
          width: `${shown.width}px`,
          height: `${shown.height}px`,
          backgroundImage: ground === 'photo' && photo ? `url(${photo})` : undefined,
        }"
        :tabindex="hand === 'look' ? undefined : 0"
        :role="hand === 'look' ? undefined : 'application'"
        :aria-label="
          hand === 'look'
            ? undefined
            : 'Hand on the ink: arrow keys move it, the space bar works once'
        "
        @pointerdown="begin"
        @pointermove="go"
        @pointerup="end"
        @pointercancel="end"
        @keydown="key"
      >
        <div v-if="ground === 'paper'" class="sheet" :style="sheetStyle">
          <BitmapCanvas
            :bitmap="lift.pictures.value?.sheet ?? null"
            label="The scan under the outlines"
          />
        </div>
        <div v-if="ink" class="ink" :class="{ inverted: isInverted }" :style="place">
          <BitmapCanvas v-show="ground !== 'paper'" :bitmap="ink.bitmap" label="The lifted ink" />
          <svg
            v-if="ground === 'paper' && lift.outlines.value"
            class="over"
            :viewBox="`0 0 ${ink.box.width} ${ink.box.height}`"
            preserveAspectRatio="none"
            aria-hidden="true"
          >
            <path :d="lift.outlines.value.path" vector-effect="non-scaling-stroke" />
          </svg>
        </div>
        <p v-else class="none">No ink is found here. Pick it with the ink dropper.</p>
        <i
          v-for="(speck, index) in rings"
          :key="index"
          class="ring"
          :style="{
            left: `${(speck.box.x + speck.box.width / 2) * scale}px`,
            top: `${(speck.box.y + speck.box.height / 2) * scale}px`,
          }"
        />
        <svg v-if="hand !== 'look'" class="over" aria-hidden="true">
          <polyline :points="strokeLine" :stroke-width="2 * BRUSH_PX" />
          <circle
            class="cursor"
            :cx="cursor.x * shown.width"
            :cy="cursor.y * shown.height"
            :r="BRUSH_PX"
          />
        </svg>
      </div>
    </div>
    <footer>
      <PickOne v-model="hand" label="What a hand on the ink does" :options="HANDS" />
      <label class="specks">
        <input v-model="showsSpecks" class="form-check-input" type="checkbox" />
        Show what was removed
      </label>
      <span class="end number">
        <template v-if="lift.step.value">{{ lift.step.value }}…</template>
        <template v-else-if="ink"> {{ ink.box.width }} × {{ ink.box.height }} px of ink </template>
      </span>
    </footer>
  </section>
</template>

<style scoped>
.pane {
  display: grid;
  gap: 8px;
  grid-template-rows: auto minmax(0, 1fr) auto;
  min-width: 0;
}

header {
  align-items: center;
  display: flex;
  gap: 12px;
  min-height: 30px;
}

.stage {
  align-items: center;
  display: flex;
  justify-content: center;
  min-height: 0;
  min-width: 0;
  overflow: hidden;
}

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

.working {
  cursor: crosshair;
  touch-action: none;
}

.sheet,
.ink {
  position: absolute;
}

.ink.inverted {
  filter: invert(1);
}

.over {
  height: 100%;
  inset: 0;
  overflow: visible;
  pointer-events: none;
  position: absolute;
  width: 100%;
}

path {
  fill: rgb(185 138 62 / 22%);
  stroke: #d8402a;
  stroke-width: 1.4;
}

polyline {
  fill: none;
  stroke: rgb(191 70 48 / 40%);
  stroke-linecap: round;
  stroke-linejoin: round;
}

.cursor {
  display: none;
  fill: none;
  stroke: var(--lc-lost);
  stroke-width: 1.5;
}

.ground:focus-visible .cursor {
  display: block;
}

.ring {
  border: 1.5px solid var(--lc-lost);
  border-radius: 50%;
  height: 15px;
  margin: -7.5px 0 0 -7.5px;
  pointer-events: none;
  position: absolute;
  width: 15px;
}

.none {
  color: #52676f;
  left: 0;
  padding: 0 20px;
  position: absolute;
  right: 0;
  text-align: center;
  top: calc(50% - 12px);
}

.ground.dark .none {
  color: #d7d2c4;
}

footer {
  align-items: center;
  color: var(--lc-on-surround-quiet);
  display: flex;
  gap: 14px;
  min-height: 26px;
  white-space: nowrap;
}

.specks {
  align-items: center;
  display: flex;
  gap: 6px;
}

.specks input {
  margin: 0;
}

.end {
  margin-left: auto;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
