<script setup lang="ts">
import { computed, ref } from 'vue';
import IconTurnLeft from '~icons/tabler/rotate-2';
import IconTurnRight from '~icons/tabler/rotate-clockwise-2';
import { LIFT_RANGES, type LiftSettings } from '#core/contract/lift';
import { runsUpOrDown } from '#core/ink/turnedLift';
import { clamp, type Size } from '#core/placement/geometry';
import type { Lift } from './useLift.ts';
import NumberField from '../ui/NumberField.vue';
import PickOne from '../ui/PickOne.vue';
import BitmapCanvas from '../ui/BitmapCanvas.vue';
import CropFrame from './CropFrame.vue';
import DragHandle from '../ui/DragHandle.vue';
import PaneFrame from './PaneFrame.vue';

/** The paper as photographed: turned, straightened, cropped, and looked at with two droppers. */
const props = defineProps<{ lift: Lift }>();

type Tool = 'crop' | 'corners' | 'paper' | 'ink';
const TOOLS: readonly { value: Tool; label: string; title: string }[] = [
  { value: 'crop', label: 'Crop', title: 'The part that is lifted' },
  {
    value: 'corners',
    label: 'Sheet',
    title: 'What is taken for paper, and the corners to straighten it by',
  },
  { value: 'paper', label: 'Paper dropper', title: 'Click on bare paper' },
  { value: 'ink', label: 'Ink dropper', title: 'Click on solid ink' },
];
const OUTER_CORNERS: NonNullable<LiftSettings['corners']> = [
  { x: 0.02, y: 0.02 },
  { x: 0.98, y: 0.02 },
  { x: 0.98, y: 0.98 },
  { x: 0.02, y: 0.98 },
];
const CORNER_NAMES = ['Top left', 'Top right', 'Bottom right', 'Bottom left'] as const;

const tool = ref<Tool>('crop');
const settings = computed(() => props.lift.settings.value);
const isCorners = computed(() => tool.value === 'corners');
const bitmap = computed(() => {
  const pictures = props.lift.pictures.value;
  return pictures && (isCorners.value ? pictures.photo : pictures.sheet);
});
const crop = computed(() => settings.value.crop ?? { x: 0, y: 0, width: 1, height: 1 });
const corners = computed(() => settings.value.corners ?? OUTER_CORNERS);
const isDropping = computed(() => tool.value === 'paper' || tool.value === 'ink');

function cornerLine({ width, height }: Size): string {
  return corners.value.map(({ x, y }) => `${x * width},${y * height}`).join(' ');
}

function moveCorner(index: number, dxPx: number, dyPx: number, shown: Size): void {
  const moved = corners.value.map((corner, at) =>
    at === index
      ? {
          x: clamp(corner.x + dxPx / shown.width, -0.05, 1.05),
          y: clamp(corner.y + dyPx / shown.height, -0.05, 1.05),
        }
      : corner,
  ) as NonNullable<LiftSettings['corners']>;
  void props.lift.reframe({ corners: moved });
}

const HINTS: Readonly<Record<Tool, string>> = {
  crop: 'Only what lies inside the frame becomes the mark.',
  corners: 'Drag the four corners of the sheet to straighten it.',
  paper: 'Click on bare paper.',
  ink: 'Click where the ink is solid.',
};
const hint = computed(() =>
  isCorners.value && settings.value.corners ? 'Straightened by these corners.' : HINTS[tool.value],
);
/** The sheet that was found, or all of the picture: what was not found right is corrected by hand. */
const paper = computed(() => {
  const { lift } = props;
  if (!lift.hasSheet.value) return null;
  const isWhole = settings.value.sheet === 'whole';
  return {
    isVeiled: isCorners.value && !isWhole,
    cutsInk: lift.cutsInk.value && !isWhole,
    label: isWhole ? 'Only the sheet that was found' : 'Take all of it for paper',
    act: () => lift.reframe({ sheet: isWhole ? 'found' : 'whole' }),
  };
});
/** What takes the tool's work back, or does it by itself. */
const remedy = computed(() => {
  const { lift } = props;
  if (tool.value === 'crop') return { label: 'Fit to the ink', act: () => lift.reframe({}) };
  if (isDropping.value) {
    const found = { paper: null, ink: null, inkColour: null };
    return { label: 'Find both again', act: () => lift.change(found) };
  }
  if (!settings.value.corners) return null;
  return { label: 'Leave it as it is', act: () => lift.reframe({ corners: null }) };
});

const TURNS = [
  { quarters: 3, label: 'Turn left', icon: IconTurnLeft },
  { quarters: 1, label: 'Turn right', icon: IconTurnRight },
] as const;

/** Ink that is taller than wide was photographed lying on its side; whoever turned it has decided. */
const isLying = computed(() => {
  const ink = props.lift.look.value?.ink;
  return settings.value.turn === 0 && ink !== null && ink !== undefined && runsUpOrDown(ink.box);
});

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
  <PaneFrame title="Paper" :shape="bitmap">
    <template #head>
      <PickOne v-model="tool" label="What a hand on the paper does" :options="TOOLS" />
      <span class="turns align-items-center d-flex ms-auto">
        <button
          v-for="{ quarters, label, icon } in TURNS"
          :key="label"
          type="button"
          class="turn"
          :title="label"
          :aria-label="label"
          @click="lift.turn(quarters)"
        >
          <component :is="icon" aria-hidden="true" />
        </button>
        <NumberField
          :model-value="settings.angle"
          label="Fine angle"
          unit="°"
          :min="-LIFT_RANGES.angleDeg"
          :max="LIFT_RANGES.angleDeg"
          :step="0.1"
          @update:model-value="lift.reframe({ angle: $event })"
        />
      </span>
    </template>
    <template #default="{ shown }">
      <div
        class="picture"
        :class="{ dropping: isDropping }"
        :style="{ width: `${shown.width}px`, height: `${shown.height}px` }"
        :tabindex="isDropping ? 0 : undefined"
        :role="isDropping ? 'button' : undefined"
        :aria-label="isDropping ? 'Pick at the middle of the crop' : undefined"
        @pointerdown="pickAt"
        @keydown.enter.prevent="pickMiddle"
      >
        <BitmapCanvas :bitmap="bitmap" label="The sheet as it was photographed" />
        <template v-if="isCorners">
          <BitmapCanvas
            v-if="paper?.isVeiled"
            class="veil"
            :bitmap="lift.veil.value"
            label="What is not taken for paper"
          />
          <svg aria-hidden="true"><polygon :points="cornerLine(shown)" /></svg>
          <DragHandle
            v-for="(corner, index) in corners"
            :key="index"
            :label="`${CORNER_NAMES[index]} of the sheet`"
            :style="{ left: `${corner.x * 100}%`, top: `${corner.y * 100}%` }"
            @move="(dx, dy) => moveCorner(index, dx, dy, shown)"
          />
        </template>
        <CropFrame
          v-else
          :crop="crop"
          :shown="shown"
          :is-movable="tool === 'crop'"
          @change="lift.change({ crop: $event })"
        />
      </div>
    </template>
    <template #waiting>{{ lift.step.value }}…</template>
    <template #foot>
      <span v-if="paper?.cutsInk" class="cut">Ink runs on beyond what was taken for paper.</span>
      <template v-else-if="isLying && bitmap">
        <span>The writing runs up or down.</span>
        <button class="btn btn-link" type="button" @click="lift.turn(1)">Turn it</button>
      </template>
      <span v-else>{{ hint }}</span>
      <button
        v-if="paper && bitmap && (isCorners || paper.cutsInk)"
        class="btn btn-link"
        type="button"
        @click="paper.act"
      >
        {{ paper.label }}
      </button>
      <button v-if="remedy && bitmap" class="btn btn-link" type="button" @click="remedy.act">
        {{ remedy.label }}
      </button>
    </template>
  </PaneFrame>
</template>

<style scoped>
.turns {
  gap: 2px;
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

@media (max-width: 1160px) {
  .turns :deep(.field) {
    width: 58px;
  }
}

.turn:hover {
  background: rgb(20 48 61 / 10%);
}

.picture {
  flex: none;
  overflow: hidden;
  position: relative;
}

.veil {
  inset: 0;
  position: absolute;
}

.cut {
  color: var(--lc-lost-deep);
  font-weight: 600;
}

.picture.dropping {
  cursor: crosshair;
}

.dropping .crop {
  pointer-events: none;
}

svg {
  height: 100%;
  inset: 0;
  pointer-events: none;
  position: absolute;
  width: 100%;
}

.turn svg {
  height: 1em;
  position: static;
  width: 1em;
}

polygon {
  fill: none;
  stroke: var(--lc-card);
  stroke-width: 1.5;
}
</style>
