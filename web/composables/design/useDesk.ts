import { watchDebounced } from '@vueuse/core';
import {
  computed,
  inject,
  provide,
  ref,
  shallowReactive,
  shallowRef,
  type InjectionKey,
} from 'vue';
import type { Design, Layer, Part } from '#core/contract/design';
import type { Finish } from '#core/contract/finish';
import type { DesignView, MarkView } from '#core/contract/http';
import type { ToneChoice } from '#core/contract/preset';
import type { DrawContext } from '#core/design/context';
import { drawDesign } from '#core/design/draw';
import { changed, takenWith, withLayer } from '#core/design/edit';
import { api, sentenceOf } from '../../api/client.ts';
import { thisYear } from '../../components/markPicture.ts';
import { useFonts } from '../../stores/fonts.ts';
import { useLibrary } from '../../stores/library.ts';
import { useNamedSteps } from './useNamedSteps.ts';

/** Saved as one goes: this long after the last change, and at least this often. */
const SAVE_PAUSE_MS = 700;
const SAVE_AT_LEAST_MS = 4_000;

/** Everything the parts of the designer share: the design, what is chosen of it, undo, saving. */
export function makeDesk() {
  const fonts = useFonts();
  const library = useLibrary();
  const steps = useNamedSteps<Design>({ layers: [], finishes: [] });
  const parts = shallowReactive(new Map<string, Part>());
  const chosen = ref<ReadonlySet<string>>(new Set());
  /** The finishes of the whole mark are being set, rather than those of a layer. */
  const isWhole = ref(false);
  const tone = ref<ToneChoice>('original');
  const year = ref(thisYear());
  /** A hand is moving something: nothing is fetched meanwhile. */
  const isHeld = ref(false);
  const markId = ref<number | null>(null);
  const isSaving = ref(false);
  const problem = ref<string | null>(null);
  const savedDesign = shallowRef<Design | null>(null);
  let underway: Promise<void> = Promise.resolve();

  const design = computed(() => steps.state.value);
  const mark = computed(() => library.markOf(markId.value));
  const saving = computed<'saved' | 'waiting' | 'saving'>(() => {
    if (design.value === savedDesign.value || markId.value === null) return 'saved';
    return isSaving.value ? 'saving' : 'waiting';
  });
  const layers = computed(() => design.value.layers);
  const chosenLayers = computed(() => layers.value.filter(({ id }) => chosen.value.has(id)));
  /** The one layer that is chosen. */
  const layer = computed(() => (chosenLayers.value.length === 1 ? chosenLayers.value[0] : null));
  const context = computed<DrawContext>(() => ({
    year: year.value,
    face: fonts.face,
    part: (key) => parts.get(key) ?? null,
  }));

  /** The design as SVG pieces, for every place that shows it while it is changed. */
  const drawn = computed(() => {
    const held = isHeld.value ? chosen.value : undefined;
    return drawDesign(design.value, tone.value, context.value, held);
  });

  async function open(id: number): Promise<void> {
    const [view] = await Promise.all([
      api.get<DesignView>(`/marks/${id}/design`),
      fonts.load(),
      library.load(),
    ]);
    parts.clear();
    take(view);
    await fonts.openFor(view.design);
    markId.value = id;
    savedDesign.value = view.design;
    steps.start(view.design);
    const top = view.design.layers[view.design.layers.length - 1];
    chosen.value = new Set(top ? [top.id] : []);
  }

  function take({ parts: more }: Pick<DesignView, 'parts'>): void {
    for (const [key, part] of Object.entries(more)) parts.set(key, part);
  }

  function change(name: string, next: Design): void {
    steps.change(name, next);
  }

  /** Changes the chosen layers. */
  function changeLayers(name: string, how: (layer: Layer) => Layer): void {
    change(name, changed(design.value, chosen.value, how));
  }

  function changeLayer(name: string, next: Layer): void {
    change(name, withLayer(design.value, next));
  }

  /** Finishes of what is chosen: of the whole mark, or of the layers. */
  const finishes = computed<readonly Finish[]>(() =>
    isWhole.value ? design.value.finishes : (chosenLayers.value[0]?.finishes ?? []),
  );

  function changeFinishes(name: string, how: (finishes: readonly Finish[]) => Finish[]): void {
    if (isWhole.value) {
      change(name, { ...design.value, finishes: how(design.value.finishes) });
    } else changeLayers(name, (some) => ({ ...some, finishes: how(some.finishes) }));
  }

  /** @param adds keeps what was chosen before */
  function choose(id: string, adds = false): void {
    const taken = takenWith(design.value, id);
    const ids = taken.size > 0 ? taken : new Set([id]);
    isWhole.value = false;
    if (!adds) chosen.value = ids;
    else if (chosen.value.has(id)) {
      chosen.value = new Set([...chosen.value].filter((some) => !ids.has(some)));
    } else chosen.value = new Set([...chosen.value, ...ids]);
  }

  function chooseNothing(): void {
    chosen.value = new Set();
  }

  function chooseWhole(): void {
    isWhole.value = true;
    chosen.value = new Set();
  }

  function undo(): void {
    steps.undo();
    keepChosen();
  }

  function redo(): void {
    steps.redo();
    keepChosen();
  }

  function keepChosen(): void {
    const there = new Set(layers.value.map(({ id }) => id));
    chosen.value = new Set([...chosen.value].filter((id) => there.has(id)));
  }

  watchDebounced(design, () => void save(), {
    debounce: SAVE_PAUSE_MS,
    maxWait: SAVE_AT_LEAST_MS,
  });

  /** What is not saved yet; one save after the other. */
  function save(): Promise<void> {
    underway = underway.then(saveNow);
    return underway;
  }

  async function saveNow(): Promise<void> {
    const now = design.value;
    if (now === savedDesign.value || markId.value === null) return;
    isSaving.value = true;
    try {
      library.takeMark(await api.put<MarkView>(`/marks/${markId.value}/design`, { design: now }));
      savedDesign.value = now;
      problem.value = null;
    } catch (error) {
      problem.value = sentenceOf(error);
    }
    isSaving.value = false;
  }

  return {
    ...{ design, layers, chosen, chosenLayers, layer, isWhole, tone, year, context, parts },
    ...{ drawn, isHeld, markId, mark, saving, problem, finishes },
    ...{ open, take, change, changeLayers, changeLayer, changeFinishes },
    ...{ choose, chooseNothing, chooseWhole, undo, redo, save, settle: steps.settle },
    ...{ undoName: steps.undoName, redoName: steps.redoName },
  };
}

export type Desk = ReturnType<typeof makeDesk>;

const DESK: InjectionKey<Desk> = Symbol('desk');

export function provideDesk(): Desk {
  const desk = makeDesk();
  provide(DESK, desk);
  return desk;
}

export function useDesk(): Desk {
  const desk = inject(DESK);
  if (!desk) throw new Error('Expected a designer around this component, found none.');
  return desk;
}

/** Random enough for the layers of one mark. */
export function newLayerId(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(6)), (byte) =>
    byte.toString(16).padStart(2, '0'),
  ).join('');
}
