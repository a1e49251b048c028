<script setup lang="ts">
import { computed, ref } from 'vue';
import { layerSchema, type Layer, type Part, type ShapeForm } from '#core/contract/design';
import type { DesignView, PartView } from '#core/contract/http';
import type { PenDrawing } from '#core/contract/pen';
import { added } from '#core/design/edit';
import { frameBox, layerFrame } from '#core/design/frame';
import { unionBox } from '#core/path/pathBox';
import { api } from '../api/client.ts';
import { newLayerId, useDesk } from './useDesk.ts';
import { useDropTarget } from '../ui/windowDrop.ts';
import { useLibrary } from '../app/library.ts';
import { useNotices } from '../app/notices.ts';
import MenuButton from '../ui/MenuButton.vue';
import PenDialog from './PenDialog.vue';

/** Something new on top: words, artwork from a file or the library, a pen stroke, a shape. */
const desk = useDesk();
const library = useLibrary();
const notices = useNotices();
const file = ref<HTMLInputElement | null>(null);
const isSigning = ref(false);

/** Something new is about this large beside what is there, as a share of the mark. */
const NEW_SHARE = 0.4;
const GAP_UNITS = 40;
const SHAPES: readonly { form: ShapeForm; label: string; width: number; height: number }[] = [
  { form: 'line', label: 'Line', width: 600, height: 4 },
  { form: 'circle', label: 'Circle', width: 160, height: 160 },
  { form: 'ring', label: 'Ring', width: 200, height: 200 },
  { form: 'box', label: 'Box', width: 260, height: 160 },
];

const others = computed(() =>
  library.marks.filter(({ id, retired }) => !retired && id !== desk.markId.value),
);

/** The mark as it is, to put something beside it. */
const field = computed(() =>
  unionBox(
    desk.layers.value.map((layer) => {
      const frame = layerFrame(layer, desk.context.value);
      return frame && frameBox(frame);
    }),
  ),
);

function below(): { x: number; y: number } {
  if (!field.value) return { x: 0, y: 0 };
  const { x, y, width, height } = field.value;
  return { x: x + width / 2, y: y + height + GAP_UNITS };
}

function add(name: string, ...layers: readonly Layer[]): void {
  desk.change(name, added(desk.design.value, ...layers));
  desk.isWhole.value = false;
  desk.chosen.value = new Set(layers.map(({ id }) => id));
}

function made(layer: object): Layer {
  return layerSchema.parse({ id: newLayerId(), ...layer });
}

function addWords(): void {
  const { x, y } = below();
  const last = [...desk.layers.value].reverse().find(({ kind }) => kind === 'lettering');
  const font = last?.kind === 'lettering' ? last.lettering.font : { family: 'cormorant-garamond' };
  const text = library.settings.name || 'Your name';
  const scale = field.value ? 0.6 : 2;
  const place = { x, y: y + 60 * scale, scaleX: scale, scaleY: scale };
  add('Add words', made({ kind: 'lettering', name: text, place, lettering: { text, font } }));
}

function addShape({ form, label, width, height }: (typeof SHAPES)[number]): void {
  const { x, y } = below();
  const shape = { form, width, height, weight: 6 };
  const place = { x, y: y + height / 2 };
  add(`Add ${label.toLowerCase()}`, made({ kind: 'shape', name: label, place, shape }));
}

function addPen(drawing: PenDrawing): void {
  const { x, y } = below();
  add('Add pen strokes', made({ kind: 'pen', name: 'Pen strokes', place: { x, y }, drawing }));
}

function addPart(key: string, part: Part, name: string): void {
  desk.parts.set(key, part);
  const long = Math.max(part.ink.width, part.ink.height);
  const scale = (1_000 * (field.value ? NEW_SHARE : 1)) / long;
  const { x, y } = below();
  const place = { x, y: y + (part.ink.height * scale) / 2, scaleX: scale, scaleY: scale };
  add('Add artwork', made({ kind: 'artwork', name, place, part: key }));
}

/** All layers of another mark, as they are, in a group of their own. */
function addLayers({ design, parts }: DesignView): void {
  desk.take({ parts });
  const group = design.layers.length > 1 ? newLayerId() : null;
  add('Add mark', ...design.layers.map((layer) => ({ ...layer, id: newLayerId(), group })));
}

function choose(event: Event): void {
  const input = event.target as HTMLInputElement;
  const [chosen] = input.files ?? [];
  input.value = '';
  if (chosen) void addFiles([chosen]);
}

/** One after the other, so that they lie in the order they came in. */
async function addFiles(files: readonly File[]): Promise<void> {
  for (const some of files) {
    await notices.attempt(async () => {
      const query = new URLSearchParams({ name: some.name });
      const got = await api.post<PartView | DesignView>(`/parts?${query}`, some);
      if ('design' in got) addLayers(got);
      else addPart(got.key, got.part, got.name);
    });
  }
}
useDropTarget({ says: 'Add as layers', take: ({ files }) => void addFiles(files) });

function addMark(id: number): void {
  void notices.attempt(async () => {
    const view = await api.get<DesignView>(`/marks/${id}/design`);
    const [only] = view.design.layers;
    if (view.design.layers.length === 1 && only.kind === 'artwork') {
      addPart(only.part, view.parts[only.part], library.markOf(id)?.name ?? 'Artwork');
    } else addLayers(view);
  });
}

const artworkEntries = computed(() => [
  { label: 'From a file', act: () => file.value?.click() },
  ...others.value.map(({ id, name }) => ({ label: name, act: () => void addMark(id) })),
]);
const shapeEntries = SHAPES.map((shape) => ({ label: shape.label, act: () => addShape(shape) }));
</script>

<template>
  <div class="add" role="group" aria-label="Add a layer">
    <button type="button" class="btn btn-outline-secondary" @click="addWords">Words</button>
    <MenuButton
      class="artwork"
      text="Artwork"
      :entries="artworkEntries"
      variant="outline-secondary"
    />
    <button type="button" class="btn btn-outline-secondary" @click="isSigning = true">Pen</button>
    <MenuButton text="Shape" :entries="shapeEntries" variant="outline-secondary" />
    <input
      ref="file"
      class="visually-hidden-input"
      type="file"
      tabindex="-1"
      aria-label="Artwork for a layer"
      @change="choose"
    />
    <PenDialog v-model="isSigning" title="Pen strokes" action="Add them" @done="addPen" />
  </div>
</template>

<style scoped>
.add {
  display: grid;
  gap: 6px;
  grid-template-columns: 1fr 1fr;
}

.add :deep(.btn) {
  padding-inline: 6px;
  width: 100%;
}
</style>
