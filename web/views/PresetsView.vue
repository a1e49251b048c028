<script setup lang="ts">
import { computed } from 'vue';
import EmptyState from '../components/EmptyState.vue';
import PresetPicture from '../components/PresetPicture.vue';
import { useSamplePhotos } from '../composables/useSamplePhotos.ts';
import { useLibrary } from '../stores/library.ts';

const USUAL_ASPECT = 1.5;
const library = useLibrary();
const { photos, isLoaded } = useSamplePhotos();

/** All cards show the same photo, so that only the presets differ: the one of the usual shape. */
const photo = computed(
  () =>
    [...photos.value].sort(
      (a, b) =>
        Math.abs(a.width / a.height - USUAL_ASPECT) - Math.abs(b.width / b.height - USUAL_ASPECT),
    )[0] ?? null,
);
</script>

<template>
  <div class="page">
    <header class="page-head">
      <h1>Presets</h1>
      <span class="quiet">A rule that puts a mark on any photo</span>
      <span class="end">
        <RouterLink v-if="library.marks.length > 0" class="btn btn-primary" to="/presets/0">
          New preset
        </RouterLink>
      </span>
    </header>
    <EmptyState
      v-if="library.presets.length === 0"
      title="No presets yet"
      :text="
        library.marks.length > 0
          ? 'Place a mark on a batch, or start here, and save it under a name that says what it is.'
          : 'A preset needs a mark. Add one first.'
      "
    >
      <RouterLink v-if="library.marks.length > 0" class="btn btn-outline-secondary" to="/presets/0">Start one</RouterLink>
      <RouterLink v-else class="btn btn-outline-secondary" to="/marks">Add a mark</RouterLink>
    </EmptyState>
    <div v-else-if="isLoaded" class="grid">
      <RouterLink
        v-for="preset in library.presets"
        :key="preset.id"
        :to="`/presets/${preset.id}`"
        class="card-plain preset"
      >
        <PresetPicture :mark="library.markOf(preset.markId)" :rule="preset.rule" :photo="photo" />
        <span class="text">
          <b class="serif" :title="preset.name">{{ preset.name }}</b>
          <span class="quiet">{{ library.markOf(preset.markId)?.name }}{{ preset.usedBy.length > 0 ? `; for ${preset.usedBy.join(', ')}` : '' }}</span>
        </span>
      </RouterLink>
    </div>
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  gap: 24px;
  grid-template-columns: repeat(auto-fill, minmax(330px, 1fr));
}

.preset {
  color: var(--lc-ink);
  display: grid;
  overflow: hidden;
  text-decoration: none;
}

.preset:hover {
  border-color: var(--lc-brass-light);
}

.text {
  display: grid;
  min-width: 0;
  padding: 11px 16px 13px;
}

b {
  font-size: 1.1rem;
  font-weight: 500;
}

b,
.quiet {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
