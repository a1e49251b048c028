<script setup lang="ts">
import { computed } from 'vue';
import IconRedo from '~icons/tabler/arrow-forward-up';
import IconUndo from '~icons/tabler/arrow-back-up';
import { useDraft } from '../draft.ts';
import { useLibrary } from '../../app/library.ts';
import { useNotices } from '../../app/notices.ts';
import MenuButton, { type MenuEntry } from '../../ui/MenuButton.vue';
import { useMarkSets } from '../markSets.ts';
import { saveAsNewPreset } from '../askPresetName.ts';

/** Which preset the bench shapes, whether it is saved, and the way back. */
const emit = defineEmits<{ choose: [id: number | null]; saved: [id: number] }>();
const draft = useDraft();
const library = useLibrary();
const notices = useNotices();
const sets = useMarkSets();
/** Photos can have another preset than their batch. */
const shownId = computed(() => draft.subject.adjustment.presetId ?? draft.presetId);

/** Favourites first, where there are any. */
const groups = computed(() => {
  const starred = library.presets.filter(({ favourite }) => favourite);
  const others = library.presets.filter(({ favourite }) => !favourite);
  return [
    { label: 'Favourites', presets: starred },
    { label: starred.length > 0 ? 'Others' : 'Presets', presets: others },
  ].filter(({ presets }) => presets.length > 0);
});

/** Presets that could lie over this one, and sets that take the place of all. */
const more = computed<MenuEntry[]>(() => {
  const laid = new Set([draft.presetId, ...draft.others.map(({ presetId }) => presetId)]);
  const presets = library.presets.filter(({ id }) => !laid.has(id));
  const whole = sets.sets.filter(({ presetIds }) => presetIds.length > 1);
  return [
    ...presets.map(({ id, name }) => ({ label: name, act: () => draft.addMark(id) })),
    ...whole.map(({ presetIds, name }) => ({ label: `Set: ${name}`, act: () => lay(presetIds) })),
  ];
});

function lay([first, ...over]: readonly number[]): void {
  emit('choose', first);
  while (draft.others.length > 0) draft.removeMark(0);
  for (const id of over) draft.addMark(id);
}

const unsavedText = computed(() => {
  if (draft.isOutdated) return 'changed here and in another window';
  return draft.saved ? 'changed, not saved' : 'not saved yet';
});

function choose(event: Event): void {
  const value = (event.target as HTMLSelectElement).value;
  const id = value === '' ? null : Number(value);
  if (!draft.target) emit('choose', id);
  else if (id === null || id === draft.presetId) draft.takeBack(draft.target, 'preset');
  else draft.adjust(draft.target, { presetId: id });
}

async function saveAsNew(): Promise<void> {
  const id = await saveAsNewPreset();
  if (id !== null) emit('saved', id);
}

async function save(): Promise<void> {
  if (!draft.saved) return saveAsNew();
  await notices.attempt(async () => {
    if (await draft.save()) notices.done(`${draft.name} is saved.`);
  });
}
</script>

<template>
  <div class="bar">
    <span class="quiet">Preset</span>
    <select
      class="form-select which serif"
      aria-label="Preset"
      :value="shownId ?? ''"
      @change="choose"
    >
      <optgroup v-for="{ label, presets } in groups" :key="label" :label="label">
        <option v-for="preset in presets" :key="preset.id" :value="preset.id">
          {{ preset.name }}
        </option>
      </optgroup>
      <option v-if="!draft.target || draft.presetId === null" value="">New preset</option>
    </select>
    <MenuButton
      v-if="draft.batchId !== null && draft.presetId !== null && more.length > 0"
      text="+ mark"
      label="Lay another mark over it"
      placement="top-start"
      :entries="more"
      :disabled="draft.isFull"
    />
    <template v-if="draft.isDirty">
      <span class="unsaved align-items-center d-inline-flex"
        ><i aria-hidden="true" />{{ unsavedText }}</span
      >
      <button class="btn btn-link" type="button" @click="save">Save</button>
      <button v-if="draft.saved" class="btn btn-link" type="button" @click="saveAsNew">
        Save as new
      </button>
      <button class="btn btn-link" type="button" @click="draft.putBack">Put back</button>
    </template>
    <span class="end">
      <slot />
      <button
        class="btn btn-link icon"
        type="button"
        :disabled="!draft.canUndo"
        title="Undo"
        aria-label="Undo"
        @click="draft.undo()"
      >
        <IconUndo />
      </button>
      <button
        class="btn btn-link icon"
        type="button"
        :disabled="!draft.canRedo"
        title="Redo"
        aria-label="Redo"
        @click="draft.redo()"
      >
        <IconRedo />
      </button>
    </span>
  </div>
</template>

<style scoped>
.bar {
  align-items: center;
  border-bottom: 1px solid var(--lc-hairline);
  display: flex;
  gap: 4px 10px;
  height: 38px;
  padding: 0 12px 0 18px;
}

.which {
  background-color: transparent;
  border-color: transparent;
  font-size: 1rem;
  flex: 0 1 auto;
  max-width: 300px;
  min-width: 120px;
  padding-left: 4px;
  text-overflow: ellipsis;
  width: auto;
}

.which:hover {
  border-color: var(--lc-hairline);
}

.unsaved {
  color: var(--lc-ink-quiet);
  font-size: 0.8125rem;
  gap: 6px;
  margin-left: 6px;
}

.unsaved i {
  background: var(--lc-brass-light);
  border-radius: 50%;
  height: 7px;
  width: 7px;
}

@media (max-width: 1160px) {
  .which {
    max-width: 200px;
  }
}

.btn,
.unsaved {
  white-space: nowrap;
}

.end {
  align-items: center;
  display: flex;
  flex: none;
  gap: 2px;
  margin-left: auto;
}

.icon {
  display: inline-flex;
  font-size: 1.05rem;
  padding: 5px;
}

@media (max-width: 900px) {
  .bar {
    flex-wrap: wrap;
    height: auto;
    min-height: 38px;
    padding-inline: 12px 6px;
  }

  .which {
    flex: 1 1 140px;
    max-width: none;
  }
}
</style>
