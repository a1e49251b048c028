<script setup lang="ts">
import { computed } from 'vue';
import type { SheetRule } from '#core/contract/sheet';
import { cropLines, photosASheet, planSheet, roomAround } from '#core/sheet/planSheets';
import type { Size } from '#core/placement/geometry';

/** A sheet drawn small: its edge, the places of photos, their lines, crop marks. */
const props = defineProps<{ rule: SheetRule; photo: Size }>();

const planned = computed(() => {
  const photos = Array<Size>(photosASheet(props.rule)).fill(props.photo);
  return planSheet(props.rule, photos);
});
const sheet = computed(() => (planned.value.ok ? planned.value.value : null));
const problem = computed(() => (planned.value.ok ? null : planned.value.reason));
const room = computed(() => roomAround(props.rule));
const view = computed(() => {
  if (!sheet.value) return '';
  const { width, height } = sheet.value.size;
  const around = room.value + 1;
  return `${-around} ${-around} ${width + 2 * around} ${height + 2 * around}`;
});
const lines = computed(() => (sheet.value ? cropLines(props.rule, sheet.value.size) : []));
</script>

<template>
  <svg v-if="sheet" class="figure" :viewBox="view" role="img" aria-label="A sheet">
    <rect class="paper" x="0" y="0" :width="sheet.size.width" :height="sheet.size.height" />
    <template v-for="{ index, box, caption } in sheet.photos" :key="index">
      <rect class="photo" v-bind="box" />
      <rect
        v-if="caption"
        class="line"
        :x="caption.x + caption.width * 0.2"
        :y="caption.y + caption.height * 0.4"
        :width="caption.width * 0.6"
        :height="caption.height * 0.25"
      />
    </template>
    <line v-for="(line, at) in lines" :key="at" class="crop" v-bind="line" />
  </svg>
  <p v-else class="problem m-0" role="alert">{{ problem }}</p>
</template>

<style scoped>
.figure {
  flex: none;
  height: 112px;
  max-width: 150px;
}

.paper {
  fill: #fff;
  stroke: var(--lc-hairline);
  stroke-width: 1px;
  vector-effect: non-scaling-stroke;
}

.photo {
  fill: var(--lc-sea-pale, #c9d8dc);
}

.line {
  fill: var(--lc-ink-quiet);
  opacity: 0.5;
}

.crop {
  stroke: var(--lc-ink);
  stroke-width: 0.7px;
  vector-effect: non-scaling-stroke;
}

.problem {
  color: var(--lc-lost-deep);
}
</style>
