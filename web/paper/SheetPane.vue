<script setup lang="ts">
import { computed, ref } from 'vue';
import { runsUpOrDown } from '#core/ink/turnedLift';
import type { Lift } from './useLift.ts';
import PickOne from '../ui/PickOne.vue';
import BitmapCanvas from '../ui/BitmapCanvas.vue';
import CropFrame from './CropFrame.vue';
import PaneFrame from './PaneFrame.vue';
import SheetCorners from './SheetCorners.vue';
import SheetTurns from './SheetTurns.vue';

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
const tool = ref<Tool>('crop');
const settings = computed(() => props.lift.settings.value);
const isCorners = computed(() => tool.value === 'corners');
const bitmap = computed(() => {
  const pictures = props.lift.pictures.value;
  return pictures && (isCorners.value ? pictures.photo : pictures.sheet);
});
const crop = computed(() => settings.value.crop ?? { x: 0, y: 0, width: 1, height: 1 });
const isDropping = computed(() => tool.value === 'paper' || tool.value === 'ink');

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
      <SheetTurns :lift="lift" />
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
          <SheetCorners :lift="lift" :shown="shown" />
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
</style>
