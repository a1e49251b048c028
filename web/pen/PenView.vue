<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core';
import { computed, onMounted, ref } from 'vue';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import type { MarkView } from '#core/contract/http';
import type { MarkOrigin } from '#core/contract/mark';
import { PEN_RANGES, penSettingsSchema, type PenSettings } from '#core/contract/pen';
import { NAME_MAX_LENGTH } from '#core/contract/preset';
import { freeName } from '#core/placement/suggestName';
import { api } from '../api/client.ts';
import BenchFrame from '../ui/BenchFrame.vue';
import BenchPanel from '../ui/BenchPanel.vue';
import PenSheet from './PenSheet.vue';
import { useTries } from './useTries.ts';
import PenTry from './PenTry.vue';
import FieldRows from '../ui/FieldRows.vue';
import { shareField, type FieldSpec } from '../ui/fields.ts';
import { useUndoKeys } from '../ui/useUndoKeys.ts';
import { useLibrary } from '../app/library.ts';
import { useFirstSteps } from '../start/firstSteps.ts';
import { useNotices } from '../app/notices.ts';

/** A sheet to sign on, as often as it takes; the best try is kept. */
const props = defineProps<{ markId: number | null }>();

const { tries, current, currentId, addTry, addStroke, undo, redo, drop } = useTries();
const library = useLibrary();
const notices = useNotices();
const { goOn } = useFirstSteps();
const pen = useLocalStorage<PenSettings>('light-crest-pen', penSettingsSchema.parse({}));
const isSaving = ref(false);
const mark = computed(() => library.markOf(props.markId));
const name = ref('');

onMounted(async () => {
  name.value = freeName(
    'Pen signature',
    library.marks.map((known) => known.name),
  );
  if (props.markId === null) return;
  await notices.attempt(async () => {
    const origin = await api.get<MarkOrigin>(`/marks/${props.markId}/origin`);
    if (origin.kind !== 'pen') return;
    pen.value = origin.drawing.pen;
    addTry(origin.drawing.strokes);
  });
});

const change = (part: Partial<PenSettings>): void => {
  pen.value = { ...pen.value, ...part };
};

const set = (key: string, value: unknown): void => change({ [key]: value });
const FIELDS = {
  weight: {
    ...{ kind: 'range', key: 'weight', word: '', label: 'Line weight', unit: 'px', step: 0.5 },
    ...{ from: PEN_RANGES.weightPx.least, to: PEN_RANGES.weightPx.most },
  },
  contrast: shareField('contrast', '', { label: 'Pressure' }),
  smoothing: shareField('smoothing', '', { label: 'Smoothing' }),
} as const satisfies Record<string, FieldSpec>;

async function keep(): Promise<void> {
  isSaving.value = true;
  await notices.attempt(async () => {
    const wish = {
      drawing: { strokes: current.value.strokes, pen: pen.value },
      name: name.value,
      markId: props.markId,
    };
    const kept = await api.post<MarkView>('/marks/pen', wish);
    drop(current.value.id);
    await library.refreshMarks();
    notices.done(`${kept.name} is in the library.`);
    await goOn(kept.id);
  });
  isSaving.value = false;
}

useUndoKeys({ undo, redo });
</script>

<template>
  <div class="work">
    <h1 class="visually-hidden">Sign with a pen</h1>
    <div class="wall work-wall">
      <PenSheet :key="current.id" :strokes="current.strokes" :pen="pen" @stroke="addStroke" />
      <aside class="tries d-flex flex-column" aria-label="Tries">
        <h2 class="minor">Tries</h2>
        <ul class="d-grid m-0 overflow-auto">
          <li v-for="(some, index) in tries" :key="some.id">
            <PenTry
              :strokes="some.strokes"
              :pen="pen"
              :label="`Try ${index + 1}`"
              :is-current="some.id === current.id"
              @choose="currentId = some.id"
              @drop="drop(some.id)"
            />
          </li>
        </ul>
        <button
          class="btn btn-outline-secondary"
          type="button"
          :disabled="current.strokes.length === 0"
          @click="addTry()"
        >
          Another try
        </button>
      </aside>
    </div>
    <BenchFrame columns="repeat(5, minmax(0, 1fr))">
      <BenchPanel title="Line weight">
        <FieldRows layout="bench" :fields="[FIELDS.weight]" :values="pen" @change="set" />
        <p class="quiet note">Changes what is signed already, too.</p>
      </BenchPanel>
      <BenchPanel title="Pressure">
        <template #end>even to lively</template>
        <FieldRows layout="bench" :fields="[FIELDS.contrast]" :values="pen" @change="set" />
        <p class="quiet note">A stylus is felt; with a mouse or finger, speed stands in for it.</p>
      </BenchPanel>
      <BenchPanel title="Smoothing">
        <template #end>as signed to smooth</template>
        <FieldRows layout="bench" :fields="[FIELDS.smoothing]" :values="pen" @change="set" />
      </BenchPanel>
      <BenchPanel title="Strokes">
        <template #end>
          <span class="number">{{ current.strokes.length }}</span>
        </template>
        <div class="d-flex gap-2">
          <button
            class="btn btn-outline-secondary"
            type="button"
            :disabled="current.strokes.length === 0"
            @click="undo"
          >
            Undo stroke
          </button>
          <button
            class="btn btn-outline-secondary"
            type="button"
            :disabled="current.undone.length === 0"
            @click="redo"
          >
            Redo
          </button>
        </div>
      </BenchPanel>
      <BenchPanel title="Keep">
        <template #end>{{ mark ? `changes ${mark.name}` : '' }}</template>
        <input
          v-if="!mark"
          v-model.trim="name"
          class="form-control"
          aria-label="Name of the mark"
          :maxlength="NAME_MAX_LENGTH"
        />
        <span v-else class="quiet">Its presets stay.</span>
        <template #go>
          <BButton
            variant="primary"
            :disabled="current.strokes.length === 0 || isSaving || (!mark && name === '')"
            @click="keep"
          >
            {{ isSaving ? 'Keeping' : 'Keep this try' }}
          </BButton>
        </template>
      </BenchPanel>
    </BenchFrame>
  </div>
</template>

<style scoped>
.wall {
  display: grid;
  gap: 18px;
  grid-template-columns: minmax(0, 1fr) 230px;
  padding: 18px;
}

.tries {
  gap: 12px;
  min-height: 0;
}

ul {
  gap: 10px;
  list-style: none;
  min-height: 0;
  padding: 3px;
}

.note {
  font-size: 0.8125rem;
}

@media (max-width: 900px) {
  .wall {
    gap: 10px;
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: minmax(240px, 1fr) auto;
    overflow: auto;
    padding: 12px;
  }

  ul {
    grid-auto-columns: 150px;
    grid-auto-flow: column;
  }
}
</style>
