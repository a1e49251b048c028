<script setup lang="ts">
import { TILE_SIZES, useTileSize } from './useTileSize.ts';
import { WALL_SORTS, type WallSort } from './useWallFilter.ts';

/** Which photos of the wall one looks for, in which order they stand, and how large. */
const sort = defineModel<WallSort>('sort', { required: true });
const find = defineModel<string>('find', { required: true });
const { size } = useTileSize();
</script>

<template>
  <div class="tools align-items-center d-flex">
    <input
      v-model="find"
      class="find"
      type="search"
      placeholder="Find by name"
      aria-label="Find photos by name"
    />
    <select v-model="sort" class="sort" aria-label="Order of the wall">
      <option v-for="some in WALL_SORTS" :key="some" :value="some">{{ some }}</option>
    </select>
    <input
      v-model.number="size"
      class="size"
      type="range"
      aria-label="Size of the photos on the wall"
      title="Size of the photos; also Ctrl and the wheel"
      :min="TILE_SIZES.least"
      :max="TILE_SIZES.most"
      :step="TILE_SIZES.step"
    />
  </div>
</template>

<style scoped>
.tools {
  gap: 6px;
}

.find,
.sort {
  background: rgb(var(--lc-veil) / 72%);
  border: 0;
  border-radius: 12px;
  color: var(--lc-ink);
  font-size: 0.8125rem;
  padding: 2px 6px 2px 8px;
}

.find::placeholder {
  color: var(--lc-ink-quiet);
  opacity: 1;
}

.size {
  accent-color: var(--lc-on-surround);
  flex: 0 1 96px;
  height: 24px;
  min-width: 60px;
}

.find {
  flex: 1 1 90px;
  min-width: 0;
  padding-left: 11px;
}
</style>
