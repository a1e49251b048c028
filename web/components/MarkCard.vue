<script setup lang="ts">
import { computed, ref } from 'vue';
import type { MarkView } from '#core/contract/http';
import type { ToneChoice } from '#core/contract/preset';
import { useTones } from '../composables/useTones.ts';
import { useLibrary } from '../stores/library.ts';
import { useNotices } from '../stores/notices.ts';
import ConfirmDialog from './ConfirmDialog.vue';
import NameDialog from './NameDialog.vue';
import SplitMark from './SplitMark.vue';

/** A mark of the library, large, in the tone that is looked at. */
const props = defineProps<{ mark: MarkView }>();
const library = useLibrary();
const notices = useNotices();
const tones = useTones();
const tone = ref<ToneChoice>('original');
const isNaming = ref(false);
const isRemoving = ref(false);

const kind = computed(() => {
  const { width, height } = props.mark.ink;
  if (props.mark.kind === 'svg') return 'SVG, sharp at any size';
  return `PNG, ${Math.round(width)} × ${Math.round(height)} px`;
});
const use = computed(() =>
  props.mark.usedBy.length === 0
    ? 'Not used by a preset yet'
    : `Used by ${props.mark.usedBy.join('; ')}`,
);

function change(part: { name?: string; retired?: boolean }): void {
  void notices.attempt(() => library.changeMark(props.mark.id, part));
}

function remove(): void {
  void notices.attempt(() => library.removeMark(props.mark.id));
}
</script>

<template>
  <article class="card-plain entry" :class="{ retired: mark.retired }" :aria-label="mark.name">
    <SplitMark class="picture" :mark="mark" :tone="tone" large />
    <div class="text">
      <header>
        <h2 :title="mark.name">{{ mark.name }}</h2>
        <span class="tones" role="radiogroup" :aria-label="`Tone of ${mark.name}`">
          <button
            v-for="option in tones"
            :key="option.tone"
            type="button"
            role="radio"
            :aria-checked="option.tone === tone"
            :aria-label="option.label"
            :title="option.label"
            :style="{ background: option.swatch }"
            @click="tone = option.tone"
          />
        </span>
      </header>
      <p class="quiet number">{{ kind }}. {{ use }}.</p>
      <p v-for="note in mark.notes" :key="note" class="note">{{ note }}</p>
      <div class="actions">
        <button class="btn btn-link" type="button" @click="isNaming = true">Rename</button>
        <button class="btn btn-link" type="button" @click="change({ retired: !mark.retired })">
          {{ mark.retired ? 'Bring back' : 'Retire' }}
        </button>
        <button class="btn btn-link" type="button" @click="isRemoving = true">Delete</button>
      </div>
    </div>
    <NameDialog
      v-model="isNaming"
      title="Rename the mark"
      label="Name"
      :name="mark.name"
      action="Rename"
      @done="change({ name: $event })"
    />
    <ConfirmDialog
      v-model="isRemoving"
      title="Delete this mark?"
      :text="`${mark.name} is removed from the library. The file it came from stays where it is.`"
      action="Delete the mark"
      @done="remove"
    />
  </article>
</template>

<style scoped>
.entry {
  overflow: hidden;
}

.entry.retired .picture {
  opacity: 0.55;
}

.picture {
  border-radius: 0;
  border-width: 0 0 1px;
  height: 214px;
}

.text {
  display: grid;
  gap: 4px;
  padding: 14px 18px 10px;
}

header {
  align-items: center;
  display: flex;
  gap: 16px;
}

h2 {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.tones {
  display: flex;
  flex: none;
  gap: 9px;
  margin-left: auto;
}

.tones button {
  border: 1px solid #b9b09a;
  border-radius: 50%;
  height: 20px;
  padding: 0;
  width: 20px;
}

.tones button[aria-checked='true'] {
  box-shadow:
    0 0 0 2px var(--lc-card),
    0 0 0 4px var(--lc-brass-light);
}

.note {
  border-left: 3px solid var(--lc-brass-light);
  font-size: 0.8125rem;
  padding-left: 9px;
}

.actions {
  display: flex;
  gap: 10px;
  margin-left: -0.35rem;
}
</style>
