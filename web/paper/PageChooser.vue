<script setup lang="ts">
import { computed } from 'vue';
import type { ScanView } from '#core/contract/http';

/** The pages of a PDF, to choose one. */
const props = defineProps<{ scan: ScanView }>();
defineEmits<{ choose: [page: number] }>();

const SMALL_PX = 420;
const pages = computed(() => Array.from({ length: props.scan.pages }, (_, index) => index + 1));
const picture = (page: number): string =>
  `/api/scans/${props.scan.id}/picture?page=${page}&small=${SMALL_PX}`;
</script>

<template>
  <ul class="pages" :aria-label="`Pages of ${scan.name}`">
    <li v-for="page in pages" :key="page">
      <button type="button" @click="$emit('choose', page)">
        <img :src="picture(page)" alt="" loading="lazy" />
        <span class="number">Page {{ page }}</span>
      </button>
    </li>
  </ul>
</template>

<style scoped>
.pages {
  display: grid;
  gap: 18px;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  list-style: none;
  margin: 0;
  padding: 0;
}

button {
  background: none;
  border: 0;
  border-radius: 4px;
  color: inherit;
  display: grid;
  gap: 6px;
  padding: 6px;
  width: 100%;
}

button:hover {
  background: var(--lc-paper-deep);
}

img {
  aspect-ratio: 1 / 1.2;
  background: #fff;
  border: 1px solid var(--lc-hairline);
  object-fit: contain;
  width: 100%;
}
</style>
