import {
  computed,
  inject,
  provide,
  ref,
  shallowReactive,
  shallowRef,
  watch,
  type InjectionKey,
} from 'vue';
import type { Design, Layer, Part } from '#core/contract/design';
import type { Finish } from '#core/contract/finish';
import type { DesignView, MarkView } from '#core/contract/http';
import { exampleWords } from '#core/lettering/photoWords';
import type { PhotoWords } from '#core/lettering/words';
import type { ToneChoice } from '#core/contract/preset';
import type { DrawContext } from '#core/design/context';
import { drawDesign } from '#core/design/draw';
import { changed, takenWith, withLayer } from '#core/design/edit';
import { api } from '../api/client.ts';
import { useSaved } from '../app/useSaved.ts';
import { thisYear } from '../mark/markPicture.ts';
import { useFonts } from './fonts.ts';
import { useLibrary } from '../app/library.ts';
import type { SendOptions } from '../app/saving.ts';
import { useNamedSteps } from '../ui/useNamedSteps.ts';

/** Saved as one goes: this long after the last change. */
const SAVE_PAUSE_MS = 700;

/** A design of a mark that is not saved yet. */
interface Unsaved {
  readonly markId: number;
  readonly design: Design;
}

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
  /** Stand for those of the photos that the mark will be on. */
  const words = shallowRef<PhotoWords>(exampleWords(thisYear()));
  /** A hand is moving something: nothing is fetched meanwhile. */
  const isHeld = ref(false);
  const markId = ref<number | null>(null);
  /** Why what was changed is refused. */
  const refusal = ref<string | null>(null);
  const savedDesign = shallowRef<Design | null>(null);
  /** Version of the mark that the design was changed from. */
  let version = 0;

  const design = computed(() => steps.state.value);
  const mark = computed(() => library.markOf(markId.value));
  const isSaved = computed(() => design.value === savedDesign.value || markId.value === null);
  const layers = computed(() => design.value.layers);
  const chosenLayers = computed(() => layers.value.filter(({ id }) => chosen.value.has(id)));
  /** The one layer that is chosen. */
  const layer = computed(() => (chosenLayers.value.length === 1 ? chosenLayers.value[0] : null));
  const context = computed<DrawContext>(() => ({
    words: words.value,
    face: fonts.face,
    part: (key) => parts.get(key) ?? null,
  }));

  /** The design as SVG pieces, for every place that shows it while it is changed. */
  const drawn = computed(() => {
    const held = isHeld.value ? chosen.value : undefined;
    return drawDesign(design.value, tone.value, context.value, held);
  });

  async function open(id: number): Promise<void> {
    // What is still on its way to the server is newer than what the server has.
    await saved.flush();
    const [view] = await Promise.all([
      api.get<DesignView>(`/marks/${id}/design`),
      fonts.load(),
      library.load(),
    ]);
    parts.clear();
    take(view);
    await fonts.openFor(view.design);
    markId.value = id;
    version = view.version ?? 0;
    savedDesign.value = view.design;
    steps.start(saved.waiting.value?.design ?? view.design);
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

  // Kept by the store of what is being saved, so that it is sent though this view is left.
  const saved = useSaved<Unsaved>(() => `design ${markId.value}`, {
    restMs: SAVE_PAUSE_MS,
    send,
    refused: (error) => (refusal.value = error.message),
    theirs: () => void reopen(),
  });
  watch(design, (now) => {
    if (markId.value === null || (isSaved.value && saved.waiting.value === null)) return;
    refusal.value = null;
    saved.set({ markId: markId.value, design: now }, version);
  });

  const problem = computed(() => refusal.value ?? saved.failure.value);

  async function send(unsaved: Unsaved, { base, keepalive }: SendOptions): Promise<number> {
    const body = { design: unsaved.design, ...(base ? { baseVersion: base } : {}) };
    const path = `/marks/${unsaved.markId}/design`;
    const now = await api.put<MarkView>(path, body, { keepalive: keepalive ?? false });
    library.takeMark(now);
    if (markId.value === unsaved.markId) {
      version = now.version;
      savedDesign.value = unsaved.design;
    }
    return now.version;
  }

  /** What another window saved, in place of what was changed here. */
  async function reopen(): Promise<void> {
    await library.refreshMarks();
    if (markId.value !== null) await open(markId.value);
  }

  /** What is not saved yet, now. @returns whether all of it is */
  const save = (): Promise<boolean> => saved.flush();

  return {
    ...{ design, layers, chosen, chosenLayers, layer, isWhole, tone, words, context, parts },
    ...{ drawn, isHeld, markId, mark, isSaved, problem, refusal, finishes },
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
