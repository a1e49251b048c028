<script setup lang="ts">
import { photoAddress } from '../../api/photoAddress.ts';
import { useElementSize } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import {
  STAMP_SCALE_MAX,
  STAMP_SCALE_MIN,
  STAMPS_MAX,
  type Stamp,
} from '#core/contract/adjustment';
import type { ResizeRule } from '#core/contract/delivery';
import type { PhotoView } from '#core/contract/http';
import type { PresetRule } from '#core/contract/preset';
import { centreOf, clamp } from '#core/placement/geometry';
import type { Copy } from '#core/placement/placeMark';
import { heldPoint, resizedRule, tidyAngle } from '#core/placement/shapeByHand';
import { dragPointer } from '../../ui/dragPointer.ts';
import { colourAt, placeIn } from './photoColour.ts';
import { useDraft } from '../../preset/draft.ts';
import MarkedPhoto from '../../preset/MarkedPhoto.vue';
import { subjectRule } from '../../preset/subject.ts';
import EdgeDistances from './EdgeDistances.vue';
import MarkHandles from './MarkHandles.vue';
import WeakPart from './WeakPart.vue';
import WipeHandle from './WipeHandle.vue';

/** The whole photo, as large as there is room: the mark is moved, sized and turned on it. */
const props = defineProps<{
  photo: PhotoView;
  resize: ResizeRule | null;
  hideMark: boolean;
  isWiping: boolean;
  /** What a click on the photo does. */
  tool: 'none' | 'stamp' | 'colour';
}>();
const emit = defineEmits<{ toolDone: [] }>();
const wipe = defineModel<number>('wipe', { required: true });
const stampIndex = defineModel<number | null>('stamp', { required: true });

const draft = useDraft();
const space = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(space);
const size = computed(() => {
  const scale = Math.min(width.value / props.photo.width, height.value / props.photo.height);
  return { width: props.photo.width * scale, height: props.photo.height * scale };
});
const subject = computed(() => draft.subjectOf(props.photo.id));
const stamps = computed<readonly Stamp[]>(() => subject.value.adjustment.stamps ?? []);
watch(stamps, (now) => {
  if (stampIndex.value !== null && stampIndex.value >= now.length) stampIndex.value = null;
});

function setStamp(index: number, part: Partial<Stamp>): void {
  const next = stamps.value.map((stamp, at) => (at === index ? { ...stamp, ...part } : stamp));
  draft.adjust([props.photo.id], { stamps: next });
}

/** The rule or stamp as it was when a hand took hold of a handle. */
let heldRule: PresetRule | null = null;
let heldStamp: Stamp | null = null;

function beginMark(): void {
  heldRule = subjectRule(subject.value);
}

function scaleMark(factor: number): void {
  if (heldRule) draft.changeOn(props.photo.id, { size: resizedRule(heldRule.size, factor) });
}

function turnMark(deg: number): void {
  if (heldRule) draft.changeOn(props.photo.id, { rotation: tidyAngle(heldRule.rotation + deg) });
}

function beginStamp(index: number): void {
  heldStamp = stamps.value[index] ?? null;
}

function scaleStamp(index: number, factor: number): void {
  const scale = clamp((heldStamp?.scale ?? 1) * factor, STAMP_SCALE_MIN, STAMP_SCALE_MAX);
  setStamp(index, { scale: Math.round(scale * 1000) / 1000 });
}

function turnStamp(index: number, deg: number): void {
  setStamp(index, { rotation: tidyAngle((heldStamp?.rotation ?? 0) + deg) });
}

function grabStamp(event: PointerEvent, index: number): void {
  const from = stamps.value[index];
  const isHeld = dragPointer(event, ({ clientX, clientY }) =>
    setStamp(index, {
      x: clamp(from.x + (clientX - event.clientX) / size.value.width, 0, 1),
      y: clamp(from.y + (clientY - event.clientY) / size.value.height, 0, 1),
    }),
  );
  if (isHeld) stampIndex.value = index;
}

/** A click with a tool: one more stamp there, or the colour there as this photo's tone. */
function use(event: MouseEvent): void {
  const area = event.currentTarget as HTMLElement;
  const place = placeIn(area, event);
  if (props.tool === 'stamp') addStamp(place.x, place.y);
  if (props.tool === 'colour') takeColour(area, place);
}

function addStamp(x: number, y: number): void {
  if (stamps.value.length >= STAMPS_MAX) return;
  const { rotation } = subjectRule(subject.value);
  draft.adjust([props.photo.id], { stamps: [...stamps.value, { x, y, scale: 1, rotation }] });
  stampIndex.value = stamps.value.length - 1;
}

function takeColour(area: HTMLElement, place: { x: number; y: number }): void {
  const image = area.parentElement?.querySelector<HTMLImageElement>('img.picture');
  const tone = image && colourAt(image, place);
  if (!tone) return;
  draft.adjust([props.photo.id], { tone: { rule: 'fixed', tone } });
  emit('toolDone');
}

function handles(copy: Copy, scale: number) {
  const centre = centreOf(copy.box);
  return {
    centre: { x: centre.x * scale, y: centre.y * scale },
    width: copy.size.width * scale,
    height: copy.size.height * scale,
    rotation: copy.rotation,
  };
}

function pivotOf(copy: Copy, anchor: PresetRule['anchor'], scale: number) {
  const { x, y } = heldPoint(copy.box, anchor);
  return { x: x * scale, y: y * scale };
}
</script>

<template>
  <div ref="space" class="space">
    <MarkedPhoto
      v-if="size.width > 0"
      :key="photo.id"
      class="whole"
      :photo="photo"
      :width="size.width"
      :height="size.height"
      picture="proxy"
      :resize="resize"
      :hide-mark="hideMark"
      @grab-stamp="grabStamp"
    >
      <template #default="{ placing, scale }">
        <template v-if="placing.placement && !hideMark && tool === 'none'">
          <EdgeDistances
            v-if="placing.placement.copies.length - stamps.length === 1"
            :frame="placing.frame"
            :box="placing.placement.copies[0].box"
            :scale="scale"
          />
          <MarkHandles
            v-if="placing.placement.copies.length - stamps.length === 1"
            v-bind="handles(placing.placement.copies[0], scale)"
            :pivot="pivotOf(placing.placement.copies[0], placing.placement.anchor, scale)"
            label="the mark"
            @begin="beginMark"
            @scale="scaleMark"
            @turn="turnMark"
          />
          <template v-for="(stamp, index) in stamps" :key="index">
            <MarkHandles
              v-if="index === stampIndex"
              v-bind="
                handles(
                  placing.placement.copies[placing.placement.copies.length - stamps.length + index],
                  scale,
                )
              "
              :pivot="{ x: stamp.x * size.width, y: stamp.y * size.height }"
              :label="`stamp ${index + 1}`"
              @begin="beginStamp(index)"
              @scale="scaleStamp(index, $event)"
              @turn="turnStamp(index, $event)"
            />
          </template>
        </template>
        <WeakPart v-if="placing.placement && !hideMark && !isWiping" :photo-id="photo.id" />
        <img
          v-if="isWiping"
          class="before"
          :src="photoAddress(photo, 'proxy')"
          alt=""
          draggable="false"
          :style="{ clipPath: `inset(0 ${(1 - wipe) * 100}% 0 0)` }"
        />
        <WipeHandle v-if="isWiping" v-model="wipe" />
        <span
          v-if="tool !== 'none'"
          class="tool"
          :class="tool"
          data-testid="tool-area"
          @click="use"
        />
      </template>
    </MarkedPhoto>
  </div>
</template>

<style scoped>
.space {
  align-items: center;
  display: flex;
  justify-content: center;
  min-height: 0;
  min-width: 0;
}

/* Handles may stand beyond the photo's edge. */
.whole {
  overflow: visible;
}

.before {
  height: 100%;
  inset: 0;
  pointer-events: none;
  position: absolute;
  width: 100%;
}

.tool {
  cursor: copy;
  inset: 0;
  position: absolute;
}

.tool.colour {
  cursor: crosshair;
}
</style>
