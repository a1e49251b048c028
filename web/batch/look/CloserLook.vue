<script setup lang="ts">
import { actionOf } from '../../app/shortcuts.ts';
import { ref, watch } from 'vue';
import IconNext from '~icons/tabler/chevron-right';
import IconPrevious from '~icons/tabler/chevron-left';
import type { PhotoView } from '#core/contract/http';
import type { ResizeRule } from '#core/contract/delivery';
import LookHead from './LookHead.vue';
import { ZOOMS, type Zoom } from './zooms.ts';
import LookRegion from './LookRegion.vue';
import LookWhole from './LookWhole.vue';
import StampBar from './StampBar.vue';
import { useKeys } from '../../ui/useKeys.ts';

/** One photo as large as the wall is, or its pixels one by one, with the live mark on it. */
const props = defineProps<{ photo: PhotoView; resize: ResizeRule | null; hideMark: boolean }>();
defineEmits<{ close: []; step: [by: 1 | -1]; export: [] }>();

/** Turns of a wheel add up to this before the zoom takes a step. */
const WHEEL_STEP = 60;

const zoom = ref<Zoom>('whole');
const isWiping = ref(false);
const wipe = ref(0.5);
const tool = ref<'none' | 'stamp' | 'colour'>('none');
const stamp = ref<number | null>(null);

watch(
  () => props.photo.id,
  () => (stamp.value = null),
);
watch(zoom, (now) => {
  if (now !== 'whole') tool.value = 'none';
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

// Before the view itself: Escape lays a tool down first.
useKeys(takeKey, { first: true });

function takeKey(event: KeyboardEvent): boolean {
  if (event.ctrlKey || event.metaKey || event.altKey) return false;
  const action = actionOf(event);
  if (action === 'zoom') {
    const at = ZOOMS.findIndex(({ value }) => value === zoom.value);
    zoom.value = ZOOMS[(at + 1) % ZOOMS.length].value;
  } else if (action === 'wipe') isWiping.value = !isWiping.value;
  else if (event.key === 'Escape' && tool.value !== 'none') tool.value = 'none';
  else return false;
  return true;
}
</script>

<template>
  <div class="look" data-testid="closer-look">
    <LookHead
      v-model:zoom="zoom"
      v-model:is-wiping="isWiping"
      :photo="photo"
      :resize="resize"
      :tool="tool"
      @tool="toggleTool"
      @export="$emit('export')"
      @close="$emit('close')"
    />
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
      class="round-button side left start-0"
      type="button"
      aria-label="Photo before"
      title="Photo before (,)"
      @click="$emit('step', -1)"
    >
      <IconPrevious />
    </button>
    <button
      class="round-button side right"
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

.side {
  position: absolute;
  top: 50%;
}

.right {
  right: 12px;
}
</style>
