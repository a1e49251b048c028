<script setup lang="ts">
import { computed, ref } from 'vue';
import IconAlone from '~icons/tabler/photo-share';
import IconClose from '~icons/tabler/x';
import IconColour from '~icons/tabler/color-picker';
import IconStamp from '~icons/tabler/rubber-stamp';
import IconWipe from '~icons/tabler/separator-vertical';
import type { ResizeRule } from '#core/contract/delivery';
import type { PhotoView } from '#core/contract/http';
import { resizeFrame } from '#core/delivery/resizeFrame';
import { useReadings } from '../../readability/readings.ts';
import PickOne from '../../ui/PickOne.vue';
import ReadingCard from '../../readability/ReadingCard.vue';
import ReadingSign from '../../readability/ReadingSign.vue';
import { ZOOMS, type Zoom } from './zooms.ts';

/** Over a photo that is looked at closely: what it is, how its mark reads, how to look at it. */
const props = defineProps<{
  photo: PhotoView;
  resize: ResizeRule | null;
  tool: 'none' | 'stamp' | 'colour';
}>();
const emit = defineEmits<{ tool: [tool: 'stamp' | 'colour']; export: []; close: [] }>();
const zoom = defineModel<Zoom>('zoom', { required: true });
const isWiping = defineModel<boolean>('isWiping', { required: true });

const readings = useReadings();
const isReading = ref(false);
const reading = computed(() => readings.of(props.photo.id));
const kind = computed(() => readings.classFor(props.photo.id));
const kindText = computed(
  () => kind.value ?? (reading.value?.isEmpty ? 'says nothing here' : 'beside the photo'),
);
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
</script>

<template>
  <header>
    <h1 class="text-truncate" :title="photo.name">{{ photo.name }}</h1>
    <span v-if="reading" class="sign-place">
      <button
        class="sign align-items-center border-0 d-flex"
        type="button"
        :aria-expanded="isReading"
        @pointerenter="isReading = true"
        @pointerleave="isReading = false"
        @focus="isReading = true"
        @blur="isReading = false"
        @click="isReading = true"
      >
        <ReadingSign :kind="kind ?? 'lost'" />
        <span class="number">{{ kindText }}</span>
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
    <span class="tools align-items-center d-flex ms-auto">
      <PickOne
        label="How large"
        :options="ZOOMS"
        :model-value="zoom"
        @update:model-value="zoom = $event"
      />
      <button
        class="tool align-items-center border-0 d-flex"
        type="button"
        :aria-pressed="isWiping"
        title="Wipe between before and after (w)"
        @click="isWiping = !isWiping"
      >
        <IconWipe aria-hidden="true" /> wipe
      </button>
      <button
        class="tool align-items-center border-0 d-flex"
        type="button"
        :aria-pressed="tool === 'stamp'"
        title="Each click on the photo puts one more mark there"
        @click="emit('tool', 'stamp')"
      >
        <IconStamp aria-hidden="true" /> stamp
      </button>
      <button
        class="tool align-items-center border-0 d-flex"
        type="button"
        :aria-pressed="tool === 'colour'"
        title="A click on the photo takes that colour as this photo's tone"
        @click="emit('tool', 'colour')"
      >
        <IconColour aria-hidden="true" /> tone
      </button>
      <button
        class="tool align-items-center border-0 d-flex"
        type="button"
        title="This photo goes out alone, by a delivery of your choice"
        @click="emit('export')"
      >
        <IconAlone aria-hidden="true" /> alone
      </button>
      <button
        class="round-button"
        type="button"
        aria-label="Back to the wall"
        title="Back to the wall (Esc)"
        @click="emit('close')"
      >
        <IconClose />
      </button>
    </span>
  </header>
</template>

<style scoped>
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
  background: rgb(var(--lc-veil) / 90%);
  border-radius: 12px;
  color: var(--lc-ink);
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
  flex: none;
  gap: 6px;
}

.tool {
  background: none;
  border-radius: 3px;
  color: inherit;
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

@media (max-width: 1160px) {
  .facts {
    display: none;
  }
}

@media (max-width: 900px) {
  header {
    flex-wrap: wrap;
  }
}
</style>
