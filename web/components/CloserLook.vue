<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import IconClose from '~icons/tabler/x';
import IconColour from '~icons/tabler/color-picker';
import IconNext from '~icons/tabler/chevron-right';
import IconPrevious from '~icons/tabler/chevron-left';
import IconStamp from '~icons/tabler/rubber-stamp';
import IconWipe from '~icons/tabler/separator-vertical';
import type { PhotoView } from '#core/contract/http';
import type { ResizeRule } from '#core/contract/delivery';
import { resizeFrame } from '#core/delivery/resizeFrame';
import { isModal, isTyping } from '../composables/useBenchKeys.ts';
import { useReadings } from '../stores/readings.ts';
import LookRegion from './look/LookRegion.vue';
import LookWhole from './look/LookWhole.vue';
import StampBar from './look/StampBar.vue';
import PickOne from './PickOne.vue';
import ReadingCard from './readability/ReadingCard.vue';
import ReadingSign from './readability/ReadingSign.vue';

/** One photo as large as the wall is, or its pixels one by one, with the live mark on it. */
const props = defineProps<{ photo: PhotoView; resize: ResizeRule | null; hideMark: boolean }>();
defineEmits<{ close: []; step: [by: 1 | -1] }>();

const ZOOMS = [
  { value: 'whole', label: 'whole', title: 'The whole photo (z)' },
  { value: '1', label: '100 %', title: 'One pixel of the output is one of the screen (z)' },
  { value: '2', label: '200 %', title: 'Twice that (z)' },
] as const;
type Zoom = (typeof ZOOMS)[number]['value'];
/** Turns of a wheel add up to this before the zoom takes a step. */
const WHEEL_STEP = 60;

const readings = useReadings();
const zoom = ref<Zoom>('whole');
const isWiping = ref(false);
const wipe = ref(0.5);
const tool = ref<'none' | 'stamp' | 'colour'>('none');
const stamp = ref<number | null>(null);
const isReading = ref(false);

watch(
  () => props.photo.id,
  () => (stamp.value = null),
);
watch(zoom, (now) => {
  if (now !== 'whole') tool.value = 'none';
});

const reading = computed(() => readings.of(props.photo.id));
const output = computed(() => resizeFrame(props.photo, props.resize));
const facts = computed(() => {
  const { width, height } = output.value;
  const isResized = width !== props.photo.width || height !== props.photo.height;
  return [
    `${props.photo.width} × ${props.photo.height}`,
    isResized ? `here as ${width} × ${height}` : null,
    props.photo.capturedAt?.replace('T', ', ').slice(0, -3),
    props.photo.camera,
    props.photo.lens,
    props.photo.profile,
    props.photo.bits > 8 ? `${props.photo.bits} bits` : null,
  ]
    .filter(Boolean)
    .join('  ·  ');
});

function stepZoom(by: 1 | -1): void {
  const at = ZOOMS.findIndex(({ value }) => value === zoom.value);
  zoom.value = ZOOMS[Math.min(ZOOMS.length - 1, Math.max(0, at + by))].value;
}

let turned = 0;
function wheel(by: number): void {
  turned = Math.sign(by) === Math.sign(turned) ? turned + by : by;
  if (Math.abs(turned) < WHEEL_STEP) return;
  stepZoom(turned < 0 ? 1 : -1);
  turned = 0;
}

function toggleTool(next: 'stamp' | 'colour'): void {
  zoom.value = 'whole';
  tool.value = tool.value === next ? 'none' : next;
}

/** Before the view itself: Escape lays a tool down first. */
const first = { capture: true };
useEventListener(window, 'keydown', takeKey, first);

function takeKey(event: KeyboardEvent): void {
  if (event.defaultPrevented || isTyping(event.target) || isModal()) return;
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key === 'z') {
    const at = ZOOMS.findIndex(({ value }) => value === zoom.value);
    zoom.value = ZOOMS[(at + 1) % ZOOMS.length].value;
  } else if (event.key === 'w') isWiping.value = !isWiping.value;
  else if (event.key === 'Escape' && tool.value !== 'none') tool.value = 'none';
  else return;
  event.preventDefault();
}
</script>

<template>
  <div class="look" data-testid="closer-look">
    <header>
      <h1 :title="photo.name">{{ photo.name }}</h1>
      <span v-if="reading" class="sign-place">
        <button
          class="sign"
          type="button"
          :aria-expanded="isReading"
          @pointerenter="isReading = true"
          @pointerleave="isReading = false"
          @focus="isReading = true"
          @blur="isReading = false"
          @click="isReading = true"
        >
          <ReadingSign :kind="reading.class ?? 'lost'" />
          <span class="number">{{ reading.class ?? 'beside the photo' }}</span>
        </button>
        <span
          v-if="isReading"
          class="figures"
          @pointerenter="isReading = true"
          @pointerleave="isReading = false"
          @pointerdown.prevent
        >
          <ReadingCard :photo="photo" :resize="resize" />
        </span>
      </span>
      <p class="facts number">{{ facts }}</p>
      <span class="tools">
        <PickOne
          label="How large"
          :options="ZOOMS"
          :model-value="zoom"
          @update:model-value="zoom = $event"
        />
        <button
          class="tool"
          type="button"
          :aria-pressed="isWiping"
          title="Wipe between before and after (w)"
          @click="isWiping = !isWiping"
        >
          <IconWipe aria-hidden="true" /> wipe
        </button>
        <button
          class="tool"
          type="button"
          :aria-pressed="tool === 'stamp'"
          title="Each click on the photo puts one more mark there"
          @click="toggleTool('stamp')"
        >
          <IconStamp aria-hidden="true" /> stamp
        </button>
        <button
          class="tool"
          type="button"
          :aria-pressed="tool === 'colour'"
          title="A click on the photo takes that colour as this photo's tone"
          @click="toggleTool('colour')"
        >
          <IconColour aria-hidden="true" /> tone
        </button>
        <button
          class="round"
          type="button"
          aria-label="Back to the wall"
          title="Back to the wall (Esc)"
          @click="$emit('close')"
        >
          <IconClose />
        </button>
      </span>
    </header>
    <LookWhole
      v-if="zoom === 'whole'"
      v-model:wipe="wipe"
      v-model:stamp="stamp"
      class="space"
      :photo="photo"
      :resize="resize"
      :hide-mark="hideMark"
      :is-wiping="isWiping"
      :tool="tool"
      @tool-done="tool = 'none'"
      @wheel.prevent="wheel($event.deltaY)"
    />
    <LookRegion
      v-else
      v-model:wipe="wipe"
      class="space"
      :photo="photo"
      :resize="resize"
      :hide-mark="hideMark"
      :is-wiping="isWiping"
      :zoom="Number(zoom)"
      @wheel="wheel"
    />
    <StampBar v-if="zoom === 'whole'" v-model="stamp" class="stamps" :photo-id="photo.id" />
    <button
      class="round side left"
      type="button"
      aria-label="Photo before"
      title="Photo before (,)"
      @click="$emit('step', -1)"
    >
      <IconPrevious />
    </button>
    <button
      class="round side right"
      type="button"
      aria-label="Photo after"
      title="Photo after (.)"
      @click="$emit('step', 1)"
    >
      <IconNext />
    </button>
  </div>
</template>

<style scoped>
.look {
  display: grid;
  gap: 10px;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto minmax(0, 1fr);
  height: 100%;
  padding-right: 12px;
  position: relative;
}

header {
  align-items: center;
  color: var(--lc-on-surround);
  display: flex;
  gap: 6px 14px;
  min-width: 0;
}

h1 {
  flex: 0 1 auto;
  font-size: 1.2rem;
  max-width: 30%;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.facts {
  color: var(--lc-on-surround-quiet);
  flex: 1 1 0;
  font-size: 0.8125rem;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: pre;
}

.sign-place {
  flex: none;
  position: relative;
}

.sign {
  align-items: center;
  background: rgb(246 243 236 / 90%);
  border: 0;
  border-radius: 12px;
  color: var(--lc-ink);
  display: flex;
  gap: 6px;
  padding: 2px 11px 2px 8px;
}

.figures {
  background: var(--lc-card);
  border: 1px solid var(--lc-hairline);
  border-radius: var(--lc-radius);
  box-shadow: var(--lc-lift);
  left: 0;
  padding: 11px 14px 12px;
  position: absolute;
  top: calc(100% + 4px);
  width: 292px;
  z-index: 6;
}

.figures::before {
  content: '';
  height: 8px;
  inset: -8px 0 auto;
  position: absolute;
}

.tools {
  align-items: center;
  display: flex;
  flex: none;
  gap: 6px;
  margin-left: auto;
}

.tool {
  align-items: center;
  background: none;
  border: 0;
  border-radius: 3px;
  color: inherit;
  display: flex;
  gap: 5px;
  padding: 2px 7px;
}

.tool:hover {
  background: color-mix(in srgb, currentcolor 12%, transparent);
}

.tool[aria-pressed='true'] {
  background: var(--lc-pick);
  color: var(--lc-on-pick);
}

.space {
  /* Room below for what tells of an adjustment: it must not shift the photo while that is made. */
  margin: 0 46px 44px;
  min-height: 0;
  min-width: 0;
}

.stamps {
  bottom: 50px;
  left: 50%;
  position: absolute;
  transform: translateX(-50%);
}

.round {
  align-items: center;
  background: rgb(246 243 236 / 82%);
  border: 0;
  border-radius: 50%;
  color: var(--lc-ink);
  display: flex;
  flex: none;
  font-size: 1.15rem;
  height: 34px;
  justify-content: center;
  width: 34px;
}

.round:hover {
  background: #fffdf8;
}

.side {
  position: absolute;
  top: 50%;
}

.left {
  left: 0;
}

.right {
  right: 12px;
}

@media (max-width: 1160px) {
  .facts {
    display: none;
  }
}
</style>
