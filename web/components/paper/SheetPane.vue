<script setup lang="ts">
import { computed, ref } from 'vue';
import IconTurnLeft from '~icons/tabler/rotate-2';
import IconTurnRight from '~icons/tabler/rotate-clockwise-2';
import { LIFT_RANGES, QUARTER_TURNS, type LiftSettings } from '#core/contract/lift';
import { clamp } from '#core/placement/geometry';
import type { Lift } from '../../composables/useLift.ts';
import NumberField from '../NumberField.vue';
import PickOne from '../PickOne.vue';
import BitmapCanvas from './BitmapCanvas.vue';
import DragHandle from './DragHandle.vue';
import { useFit } from './useFit.ts';

/** The paper as photographed: turned, straightened, cropped, and looked at with two droppers. */
const props = defineProps<{ lift: Lift }>();

type Tool = 'crop' | 'corners' | 'paper' | 'ink';
const TOOLS: readonly { value: Tool; label: string; title: string }[] = [
  { value: 'crop', label: 'Crop', title: 'The part that is lifted' },
  { value: 'corners', label: 'Corners', title: 'The corners of the sheet, to straighten it by' },
  { value: 'paper', label: 'Paper dropper', title: 'Click on bare paper' },
  { value: 'ink', label: 'Ink dropper', title: 'Click on solid ink' },
];
const LEAST_CROP = 0.01;
const OUTER_CORNERS: NonNullable<LiftSettings['corners']> = [
  { x: 0.02, y: 0.02 },
  { x: 0.98, y: 0.02 },
  { x: 0.98, y: 0.98 },
  { x: 0.02, y: 0.98 },
];
const CORNER_NAMES = ['Top left', 'Top right', 'Bottom right', 'Bottom left'] as const;

const tool = ref<Tool>('crop');
const stage = ref<HTMLElement | null>(null);
const settings = computed(() => props.lift.settings.value);
const isCorners = computed(() => tool.value === 'corners');
const bitmap = computed(() => {
  const pictures = props.lift.pictures.value;
  return pictures && (isCorners.value ? pictures.photo : pictures.sheet);
});
const shown = useFit(stage, () => bitmap.value);
const crop = computed(() => settings.value.crop ?? { x: 0, y: 0, width: 1, height: 1 });
const corners = computed(() => settings.value.corners ?? OUTER_CORNERS);
const cornerLine = computed(() =>
  corners.value.map(({ x, y }) => `${x * shown.value.width},${y * shown.value.height}`).join(' '),
);

const EDGES = [
  { name: 'Left edge', shape: 'edge-x', x: 0, y: 0.5, left: 1, top: 0, right: 0, bottom: 0 },
  { name: 'Right edge', shape: 'edge-x', x: 1, y: 0.5, left: 0, top: 0, right: 1, bottom: 0 },
  { name: 'Top edge', shape: 'edge-y', x: 0.5, y: 0, left: 0, top: 1, right: 0, bottom: 0 },
  { name: 'Bottom edge', shape: 'edge-y', x: 0.5, y: 1, left: 0, top: 0, right: 0, bottom: 1 },
  { name: 'Top left corner', shape: 'corner', x: 0, y: 0, left: 1, top: 1, right: 0, bottom: 0 },
  { name: 'Top right corner', shape: 'corner', x: 1, y: 0, left: 0, top: 1, right: 1, bottom: 0 },
  { name: 'Bottom left corner', shape: 'corner', x: 0, y: 1, left: 1, top: 0, right: 0, bottom: 1 },
  {
    name: 'Bottom right corner',
    shape: 'corner',
    ...{ x: 1, y: 1, left: 0, top: 0, right: 1, bottom: 1 },
  },
] as const;

function moveCrop(edge: (typeof EDGES)[number], dxPx: number, dyPx: number): void {
  const dx = dxPx / shown.value.width;
  const dy = dyPx / shown.value.height;
  const { x, y, width, height } = crop.value;
  const right = x + width;
  const bottom = y + height;
  const nextX = clamp(x + dx * edge.left, 0, right - LEAST_CROP);
  const nextY = clamp(y + dy * edge.top, 0, bottom - LEAST_CROP);
  props.lift.change({
    crop: {
      x: nextX,
      y: nextY,
      width: clamp(right + dx * edge.right, nextX + LEAST_CROP, 1) - nextX,
      height: clamp(bottom + dy * edge.bottom, nextY + LEAST_CROP, 1) - nextY,
    },
  });
}

function moveCorner(index: number, dxPx: number, dyPx: number): void {
  const moved = corners.value.map((corner, at) =>
    at === index
      ? {
          x: clamp(corner.x + dxPx / shown.value.width, -0.05, 1.05),
          y: clamp(corner.y + dyPx / shown.value.height, -0.05, 1.05),
        }
      : corner,
  ) as NonNullable<LiftSettings['corners']>;
  void props.lift.reframe({ corners: moved });
}

function turnBy(quarters: 1 | 3): void {
  const at = QUARTER_TURNS.indexOf(settings.value.turn);
  void props.lift.reframe({ turn: QUARTER_TURNS[(at + quarters) % QUARTER_TURNS.length] });
}

function pickAt(event: PointerEvent): void {
  if (tool.value !== 'paper' && tool.value !== 'ink') return;
  const frame = (event.currentTarget as HTMLElement).getBoundingClientRect();
  void props.lift.pick(tool.value, {
    x: (event.clientX - frame.left) / frame.width,
    y: (event.clientY - frame.top) / frame.height,
  });
}

/** Without a mouse a dropper looks at the middle of the crop, which the crop's handles aim. */
function pickMiddle(): void {
  if (tool.value !== 'paper' && tool.value !== 'ink') return;
  const { x, y, width, height } = crop.value;
  void props.lift.pick(tool.value, { x: x + width / 2, y: y + height / 2 });
}
</script>

<template>
  <section class="pane" aria-label="Paper">
    <header>
      <h2 class="minor">Paper</h2>
      <PickOne v-model="tool" label="What a hand on the paper does" :options="TOOLS" />
      <span class="turns">
        <button
          type="button"
          class="turn"
          title="Turn left"
          aria-label="Turn left"
          @click="turnBy(3)"
        >
          <IconTurnLeft aria-hidden="true" />
        </button>
        <button
          type="button"
          class="turn"
          title="Turn right"
          aria-label="Turn right"
          @click="turnBy(1)"
        >
          <IconTurnRight aria-hidden="true" />
        </button>
        <NumberField
          :model-value="settings.angle"
          label="Fine angle"
          unit="°"
          :min="-LIFT_RANGES.angleDeg"
          :max="LIFT_RANGES.angleDeg"
          :step="0.1"
          :decimals="1"
          @update:model-value="lift.reframe({ angle: $event })"
        />
      </span>
    </header>
    <div ref="stage" class="stage">
      <div
        v-if="bitmap"
        class="picture"
        :class="{ dropping: tool === 'paper' || tool === 'ink' }"
        :style="{ width: `${shown.width}px`, height: `${shown.height}px` }"
        :tabindex="tool === 'paper' || tool === 'ink' ? 0 : -1"
        :role="tool === 'paper' || tool === 'ink' ? 'button' : undefined"
        :aria-label="
          tool === 'paper' || tool === 'ink' ? 'Pick at the middle of the crop' : undefined
        "
        @pointerdown="pickAt"
        @keydown.enter.prevent="pickMiddle"
      >
        <BitmapCanvas :bitmap="bitmap" label="The sheet as it was photographed" />
        <template v-if="isCorners">
          <svg class="over" aria-hidden="true"><polygon :points="cornerLine" /></svg>
          <DragHandle
            v-for="(corner, index) in corners"
            :key="index"
            :label="`${CORNER_NAMES[index]} of the sheet`"
            shape="point"
            :style="{ left: `${corner.x * 100}%`, top: `${corner.y * 100}%` }"
            @move="(dx, dy) => moveCorner(index, dx, dy)"
          />
        </template>
        <div
          v-else
          class="crop"
          :style="{
            left: `${crop.x * 100}%`,
            top: `${crop.y * 100}%`,
            width: `${crop.width * 100}%`,
            height: `${crop.height * 100}%`,
          }"
        >
          <template v-if="tool === 'crop'">
            <DragHandle
              v-for="edge in EDGES"
              :key="edge.name"
              :label="edge.name"
              :shape="edge.shape"
              :style="{ left: `${edge.x * 100}%`, top: `${edge.y * 100}%` }"
              @move="(dx, dy) => moveCrop(edge, dx, dy)"
            />
          </template>
        </div>
      </div>
    </div>
    <footer>
      <template v-if="isCorners">
        <span v-if="settings.corners">Straightened by these corners.</span>
        <span v-else>Drag the four corners of the sheet to straighten it.</span>
        <button
          v-if="settings.corners"
          class="btn btn-link"
          type="button"
          @click="lift.reframe({ corners: null })"
        >
          Leave it as it is
        </button>
      </template>
      <template v-else-if="tool === 'crop'">
        <span>What lies outside of the frame is not lifted.</span>
        <button class="btn btn-link" type="button" @click="lift.reframe({})">
          Fit round the ink
        </button>
      </template>
      <template v-else>
        <span>{{
          tool === 'paper' ? 'Click on bare paper.' : 'Click where the ink is solid.'
        }}</span>
        <button
          class="btn btn-link"
          type="button"
          @click="lift.change({ paper: null, ink: null, inkColour: null })"
        >
          Find both again
        </button>
      </template>
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
  white-space: nowrap;
}

.turns {
  align-items: center;
  display: flex;
  gap: 2px;
  margin-left: auto;
}

.turn {
  background: none;
  border: 0;
  border-radius: 3px;
  color: inherit;
  font-size: 1.1rem;
  line-height: 1;
  padding: 4px 6px;
}

.turn:hover {
  background: rgb(20 48 61 / 10%);
}

.stage {
  align-items: center;
  display: flex;
  justify-content: center;
  min-height: 0;
  min-width: 0;
  overflow: hidden;
}

.picture {
  flex: none;
  overflow: hidden;
  position: relative;
}

.picture.dropping {
  cursor: crosshair;
}

.crop {
  box-shadow: 0 0 0 4000px rgb(20 36 44 / 42%);
  outline: 1.5px solid var(--lc-card);
  position: absolute;
}

.dropping .crop {
  pointer-events: none;
}

.over {
  height: 100%;
  inset: 0;
  pointer-events: none;
  position: absolute;
  width: 100%;
}

polygon {
  fill: none;
  stroke: var(--lc-card);
  stroke-width: 1.5;
}

footer {
  align-items: center;
  color: var(--lc-on-surround-quiet);
  display: flex;
  gap: 10px;
  min-height: 26px;
}

footer .btn-link {
  --bs-btn-color: var(--lc-on-surround);

  text-decoration: underline;
  text-underline-offset: 3px;
}
</style>
