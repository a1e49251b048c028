<script setup lang="ts">
import { computed, ref } from 'vue';
import {
  metadataSchema,
  RIGHTS_LINE_MAX,
  USAGE_MAX,
  type MetadataRule,
} from '#core/contract/delivery';
import { useLibrary } from '../app/library.ts';
import PickOne from '../ui/PickOne.vue';
import { keptText } from './deliveryText.ts';

/** What the files say beside their pixels: what of the photo's own, and who made it. */
const metadata = defineModel<MetadataRule>({ required: true });

type Kept = Pick<MetadataRule, 'keep' | 'location'>;
/** What is kept, in one choice: without metadata there is no place either. */
const KEPT: Readonly<Record<'dropped' | 'all' | 'copyright' | 'none', Kept>> = {
  dropped: { keep: 'all', location: 'drop' },
  all: { keep: 'all', location: 'keep' },
  copyright: { keep: 'copyright', location: 'drop' },
  none: { keep: 'none', location: 'drop' },
};
const CHOICES = Object.entries(KEPT).map(([value, kept]) => ({
  value: value as keyof typeof KEPT,
  label: keptText(kept),
}));

const FIELDS = [
  { key: 'artist', label: 'Artist', most: RIGHTS_LINE_MAX, hint: 'as the photo says' },
  { key: 'copyright', label: 'Copyright', most: RIGHTS_LINE_MAX, hint: 'as the photo says' },
  { key: 'usage', label: 'Usage terms', most: USAGE_MAX, hint: 'none' },
  { key: 'rights_url', label: 'Page with the terms', most: USAGE_MAX, hint: 'https://…' },
] as const;

const library = useLibrary();
const chosen = computed(() => {
  const { keep, location } = metadata.value;
  if (keep !== 'all') return keep;
  return location === 'keep' ? 'all' : 'dropped';
});
const own = computed(() => {
  const { name, copyright } = library.settings;
  return name || copyright ? { artist: name || null, copyright: copyright || null } : null;
});

function set(part: Partial<MetadataRule>): void {
  metadata.value = { ...metadata.value, ...part };
}

/** What was typed and cannot be taken: the server would refuse all of the delivery for it. */
const refused = ref<(typeof FIELDS)[number]['key'] | null>(null);

function typed(key: (typeof FIELDS)[number]['key'], event: Event): void {
  const value = (event.target as HTMLInputElement).value.trim() || null;
  const isTaken = metadataSchema.shape[key].safeParse(value).success;
  refused.value = isTaken ? null : key;
  if (isTaken) set({ [key]: value });
}
</script>

<template>
  <PickOne
    label="Metadata"
    :options="CHOICES"
    :model-value="chosen"
    @update:model-value="set(KEPT[$event])"
  />
  <button v-if="own" class="btn btn-link" type="button" @click="set(own)">
    Sign as in Settings
  </button>
  <div class="rights d-grid">
    <label v-for="{ key, label, most, hint } in FIELDS" :key="key">
      <span class="quiet">{{ label }}</span>
      <input
        class="form-control"
        :type="key === 'rights_url' ? 'url' : 'text'"
        :value="metadata[key] ?? ''"
        :maxlength="most"
        :placeholder="hint"
        :aria-invalid="refused === key"
        @change="typed(key, $event)"
      />
      <span v-if="refused === key" class="problem" role="alert">
        An address begins with https:// or http://
      </span>
    </label>
  </div>
</template>

<style scoped>
.rights {
  align-items: end;
  flex-basis: 100%;
  gap: 8px 14px;
  grid-template-columns: repeat(auto-fit, minmax(190px, 1fr));
}

label {
  display: grid;
  gap: 2px;
}

label span {
  font-size: 0.8125rem;
}

.problem {
  color: var(--lc-lost-deep);
}
</style>
