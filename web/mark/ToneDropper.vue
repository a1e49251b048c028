<script setup lang="ts">
import { photoAddress } from '../api/photoAddress.ts';
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { computed, ref } from 'vue';
import { MAX_PALETTE } from '#core/contract/settings';
import { clamp } from '#core/placement/geometry';
import { colourAt, placeIn } from '../batch/look/photoColour.ts';
import { arrowWay } from '../ui/arrowWay.ts';
import { useLastBatch } from '../preset/useLastBatch.ts';
import { useLibrary } from '../app/library.ts';
import { useNotices } from '../app/notices.ts';

/** A tone picked from a photo goes into the palette, where every mark can take it. */
const emit = defineEmits<{ picked: [tone: `#${string}`] }>();
const isOpen = defineModel<boolean>({ required: true });

const KEY_STEP = 0.01;

const library = useLibrary();
const notices = useNotices();
const { all, isLoaded } = useLastBatch();
const index = ref(0);
const photo = computed(() => all.value[index.value] ?? null);
const picture = ref<HTMLImageElement | null>(null);
const place = ref({ x: 0.5, y: 0.5 });
const colour = ref<`#${string}` | null>(null);
const name = ref('');
const isFull = computed(() => library.settings.palette.length >= MAX_PALETTE);

function look(): void {
  colour.value = picture.value ? colourAt(picture.value, place.value) : null;
}

function point(event: PointerEvent): void {
  place.value = placeIn(event.currentTarget as HTMLElement, event);
  look();
}

function key(event: KeyboardEvent): void {
  const way = arrowWay(event.key);
  if (!way) return;
  event.preventDefault();
  const times = event.shiftKey ? 10 : 1;
  place.value = {
    x: clamp(place.value.x + way[0] * KEY_STEP * times, 0, 1),
    y: clamp(place.value.y + way[1] * KEY_STEP * times, 0, 1),
  };
  look();
}

function go(by: 1 | -1): void {
  const count = all.value.length;
  index.value = (index.value + by + count) % count;
  colour.value = null;
}

function take(): void {
  const picked = colour.value;
  if (!picked) return;
  const known = library.settings.palette.find((entry) => entry.colour === picked);
  isOpen.value = false;
  void notices.attempt(async () => {
    if (!known) {
      const entry = { name: name.value.trim() || picked, colour: picked };
      const palette = [...library.settings.palette, entry];
      library.changeSettings({ palette });
    }
    emit('picked', picked);
  });
  name.value = '';
}
</script>

<template>
  <BModal v-model="isOpen" title-tag="h2" title="A tone from a photo" size="lg" centered no-footer>
    <p v-if="isLoaded && !photo" class="quiet">
      There is no photo to pick from yet. Drop some on the start page first.
    </p>
    <div v-else-if="photo" class="form">
      <div
        class="photo"
        tabindex="0"
        role="application"
        aria-label="Dropper on the photo: click, or move it with the arrow keys"
        @pointerdown="point"
        @keydown="key"
      >
        <img
          ref="picture"
          :src="photoAddress(photo, 'proxy')"
          :alt="photo.name"
          draggable="false"
          @load="look"
        />
        <i
          class="aim rounded-circle pe-none"
          :style="{ left: `${place.x * 100}%`, top: `${place.y * 100}%` }"
        />
      </div>
      <div class="line align-items-center d-flex">
        <button class="btn btn-outline-secondary" type="button" @click="go(-1)">Previous</button>
        <button class="btn btn-outline-secondary" type="button" @click="go(1)">Next photo</button>
        <span class="chip" :style="{ background: colour ?? 'transparent' }" />
        <span class="number">{{ colour }}</span>
        <input
          v-model="name"
          class="form-control"
          placeholder="Name"
          aria-label="Name of the tone"
        />
        <button class="btn btn-primary" type="button" :disabled="!colour || isFull" @click="take">
          Add to the palette
        </button>
      </div>
      <p v-if="isFull" class="quiet">
        The palette is full: take a colour out in the settings first.
      </p>
    </div>
  </BModal>
</template>

<style scoped>
.form {
  display: grid;
  gap: 14px;
}

.photo {
  cursor: crosshair;
  justify-self: center;
  position: relative;
  touch-action: none;
}

img {
  display: block;
  max-height: 54vh;
  max-width: 100%;
}

.aim {
  border: 2px solid #fff;
  box-shadow: 0 0 0 1.5px rgb(20 36 44 / 80%);
  height: 18px;
  margin: -9px 0 0 -9px;
  position: absolute;
  width: 18px;
}

.line {
  gap: 10px;
}

.chip {
  border: 1px solid var(--lc-line);
  border-radius: 50%;
  flex: none;
  height: 30px;
  width: 30px;
}

.line .form-control {
  flex: 1;
  min-width: 90px;
}
</style>
