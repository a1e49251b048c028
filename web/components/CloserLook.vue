<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import IconClose from '~icons/tabler/x';
import IconNext from '~icons/tabler/chevron-right';
import IconPrevious from '~icons/tabler/chevron-left';
import type { PhotoView } from '#core/contract/http';
import type { ResizeRule } from '#core/contract/delivery';
import MarkedPhoto from './MarkedPhoto.vue';

/** One photo as large as the wall is, with the live mark on it. */
const props = defineProps<{ photo: PhotoView; resize: ResizeRule | null; hideMark: boolean }>();
defineEmits<{ close: []; step: [by: 1 | -1] }>();

const space = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(space);
const size = computed(() => {
  const scale = Math.min(width.value / props.photo.width, height.value / props.photo.height);
  return { width: props.photo.width * scale, height: props.photo.height * scale };
});
const facts = computed(() =>
  [
    `${props.photo.width} × ${props.photo.height}`,
    props.photo.capturedAt?.replace('T', ', ').slice(0, -3),
    props.photo.camera,
    props.photo.lens,
    props.photo.profile,
    props.photo.bits > 8 ? `${props.photo.bits} bits` : null,
  ]
    .filter(Boolean)
    .join('  ·  '),
);
</script>

<template>
  <div class="look" data-testid="closer-look">
    <header>
      <h1>{{ photo.name }}</h1>
      <p class="facts number">{{ facts }}</p>
      <button
        class="round"
        type="button"
        aria-label="Back to the wall"
        title="Back to the wall (Esc)"
        @click="$emit('close')"
      >
        <IconClose />
      </button>
    </header>
    <div ref="space" class="space">
      <MarkedPhoto
        v-if="size.width > 0"
        :key="photo.id"
        :photo="photo"
        :width="size.width"
        :height="size.height"
        picture="proxy"
        :resize="resize"
        :hide-mark="hideMark"
      />
    </div>
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
  grid-template-rows: auto minmax(0, 1fr);
  height: 100%;
  padding-right: 12px;
  position: relative;
}

header {
  align-items: center;
  display: flex;
  gap: 6px 16px;
  min-width: 0;
}

h1 {
  font-size: 1.2rem;
  max-width: 46%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.facts {
  color: var(--lc-on-surround-quiet);
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: pre;
}

.space {
  align-items: center;
  display: flex;
  justify-content: center;
  margin: 0 46px 14px;
  min-height: 0;
  min-width: 0;
}

.round {
  align-items: center;
  background: rgb(246 243 236 / 82%);
  border: 0;
  border-radius: 50%;
  color: var(--lc-ink);
  display: flex;
  font-size: 1.15rem;
  height: 34px;
  justify-content: center;
  margin-left: auto;
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
</style>
