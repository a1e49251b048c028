<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue';
import type { PenSettings, PenStroke } from '#core/contract/pen';
import { ringPath, strokeRing } from '#core/pen/penOutline';

/** The sheet that is signed on: a stylus's pressure is taken where it has one. */
const props = defineProps<{ strokes: readonly PenStroke[]; pen: PenSettings }>();
const emit = defineEmits<{ stroke: [stroke: PenStroke] }>();

/** What a mouse reports as pressure, which says nothing. */
const NO_PRESSURE = 0.5;
/** Two decimals of a px keep files small and every tremor. */
const rounded = (value: number): number => Math.round(value * 100) / 100;

const sheet = ref<SVGSVGElement | null>(null);
const points = shallowRef<number[]>([]);
const hasPressure = ref(false);
/** Once a stylus was seen, a resting hand is no finger. */
const isStylus = ref(false);

const paths = computed(() =>
  props.strokes.map((stroke) => ringPath(strokeRing(stroke, props.pen))),
);
const underway = computed(() =>
  points.value.length >= 3
    ? ringPath(strokeRing({ points: points.value, pressure: hasPressure.value }, props.pen))
    : '',
);

function add(events: readonly PointerEvent[]): void {
  const frame = sheet.value?.getBoundingClientRect();
  if (!frame) return;
  const more: number[] = [];
  for (const event of events) {
    const pressure = hasPressure.value ? event.pressure : NO_PRESSURE;
    more.push(rounded(event.clientX - frame.left), rounded(event.clientY - frame.top));
    more.push(rounded(pressure));
  }
  points.value = [...points.value, ...more];
}

function down(event: PointerEvent): void {
  if (event.button !== 0) return;
  if (event.pointerType === 'pen') isStylus.value = true;
  if (isStylus.value && event.pointerType === 'touch') return;
  sheet.value?.setPointerCapture(event.pointerId);
  hasPressure.value = event.pointerType === 'pen' && event.pressure > 0;
  points.value = [];
  add([event]);
}

function move(event: PointerEvent): void {
  if (points.value.length === 0) return;
  // A pen reports more often than the screen is drawn; all of it belongs to the stroke.
  const all = event.getCoalescedEvents?.() ?? [];
  add(all.length > 0 ? all : [event]);
}

function up(): void {
  if (points.value.length > 0) {
    emit('stroke', { points: points.value, pressure: hasPressure.value });
  }
  points.value = [];
}
</script>

<template>
  <div class="paper">
    <svg
      ref="sheet"
      role="img"
      aria-label="Sheet to sign on, with stylus, finger or mouse"
      @pointerdown.prevent="down"
      @pointermove="move"
      @pointerup="up"
      @pointercancel="up"
    >
      <path v-for="(path, index) in paths" :key="index" :d="path" />
      <path :d="underway" />
    </svg>
    <p v-if="strokes.length === 0 && points.length === 0" class="hint serif">Sign here</p>
    <span class="line" aria-hidden="true" />
  </div>
</template>

<style scoped>
.paper {
  background: #fffdf8;
  box-shadow: 0 1px 3px rgb(20 36 44 / 25%);
  min-height: 0;
  position: relative;
}

svg {
  cursor: crosshair;
  height: 100%;
  inset: 0;
  position: absolute;
  touch-action: none;
  width: 100%;
  z-index: 1;
}

path {
  fill: #14242c;
}

.line {
  border-bottom: 1px solid #d9d2c2;
  bottom: 30%;
  left: 9%;
  position: absolute;
  right: 9%;
}

.hint {
  bottom: 32%;
  color: #6c7a7f;
  font-size: 1.2rem;
  left: 9%;
  position: absolute;
}
</style>
