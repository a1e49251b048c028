<script setup lang="ts">
import { computed } from 'vue';
import type { PhotoView, PresetView } from '#core/contract/http';
import EmptyState from '../components/EmptyState.vue';
import PresetPicture from '../components/PresetPicture.vue';
import { useSamplePhotos } from '../composables/useSamplePhotos.ts';
import { useLibrary } from '../stores/library.ts';

const library = useLibrary();
const { all, isLoaded } = useSamplePhotos();

/** Mean L* of a photo on which a dark mark shows well, and of one for every other tone. */
const BRIGHT_GROUND = 78;
const DIM_GROUND = 36;

/** Cards of one tone show the same photo, so that only the presets differ. */
const lying = computed(() => {
  const some = all.value.filter(({ width, height }) => width > height && width < 2 * height);
  return some.length > 0 ? some : all.value;
});

function photoFor(preset: PresetView): PhotoView | null {
  const wanted = preset.rule.tone.tone === 'dark' ? BRIGHT_GROUND : DIM_GROUND;
  const off = (photo: PhotoView): number => Math.abs(photo.lightness - wanted);
  const some = lying.value;
  return some.length > 0 ? some.reduce((a, b) => (off(b) < off(a) ? b : a)) : null;
}
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
      <RouterLink v-if="library.marks.length > 0" class="btn btn-outline-secondary" to="/presets/0"
        >Start one</RouterLink
      >
      <RouterLink v-else class="btn btn-outline-secondary" to="/marks">Add a mark</RouterLink>
    </EmptyState>
    <div v-else-if="isLoaded" class="grid">
      <RouterLink
        v-for="preset in library.presets"
        :key="preset.id"
        :to="`/presets/${preset.id}`"
        class="card-plain preset"
      >
        <PresetPicture
          :mark="library.markOf(preset.markId)"
          :rule="preset.rule"
          :photo="photoFor(preset)"
        />
        <span class="text">
          <b class="serif" :title="preset.name">{{ preset.name }}</b>
          <span class="quiet"
            >{{ library.markOf(preset.markId)?.name
            }}{{ preset.usedBy.length > 0 ? `; for ${preset.usedBy.join(', ')}` : '' }}</span
          >
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
