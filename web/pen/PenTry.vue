<script setup lang="ts">
import { computed } from 'vue';
import IconX from '~icons/tabler/x';
import type { PenSettings, PenStroke } from '#core/contract/pen';
import { penSvg } from '#core/pen/penOutline';

/** One try, small. */
const props = defineProps<{
  strokes: readonly PenStroke[];
  pen: PenSettings;
  label: string;
  isCurrent: boolean;
}>();
defineEmits<{ choose: []; drop: [] }>();

const picture = computed(() => {
  const svg = penSvg({ strokes: [...props.strokes], pen: props.pen });
  return svg.ok ? `data:image/svg+xml,${encodeURIComponent(svg.value)}` : null;
});
</script>

<template>
  <div class="try" :class="{ current: isCurrent }">
    <button
      type="button"
      class="choose bg-transparent border-0 d-grid h-100 w-100"
      :aria-pressed="isCurrent"
      @click="$emit('choose')"
    >
      <img v-if="picture" :src="picture" alt="" />
      <span class="label">{{ label }}</span>
    </button>
    <button
      type="button"
      class="drop bg-transparent border-0 position-absolute"
      :aria-label="`Throw ${label.toLowerCase()} away`"
      title="Delete this try"
      @click="$emit('drop')"
    >
      <IconX aria-hidden="true" />
    </button>
  </div>
</template>

<style scoped>
.try {
  /* Paper, in every theme. */
  --lc-ink-quiet: #52676f;
  --lc-ink: #14303d;

  background: #fffdf8;
  border-radius: 3px;
  height: 92px;
  position: relative;
}

.try.current {
  box-shadow: 0 0 0 2px var(--lc-brass);
}

.choose {
  padding: 10px 30px 4px 12px;
  place-items: center;
}

img {
  max-height: 56px;
  max-width: 100%;
}

.label {
  color: var(--lc-ink-quiet);
  font-size: 0.78rem;
  justify-self: start;
  margin-top: auto;
}

.drop {
  color: var(--lc-ink-quiet);
  line-height: 1;
  padding: 5px;
  right: 3px;
  top: 3px;
}
</style>
