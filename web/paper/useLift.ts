import { releaseProxy, wrap, type Remote } from 'comlink';
import { computed, nextTick, onScopeDispose, ref, shallowRef, watch, type Ref } from 'vue';
import { DEFAULT_LIFT, type LiftSettings } from '#core/contract/lift';
import { inkLevelOf } from '#core/ink/dropper';
import { turnedLift } from '#core/ink/turnedLift';
import type { Point, Size } from '#core/placement/geometry';
import { sentenceOf } from '../api/client.ts';
import type { LiftDeskApi } from '../workers/lift.worker.ts';
import type { LiftLook, OutlineLook } from '../workers/liftDesk.ts';
import { useUndoKeys } from '../ui/useUndoKeys.ts';
import { useSteps } from '../ui/useSteps.ts';

/** Pixels of the copy that follows the hand: a change on it is shown well within 50 ms. */
const QUICK_PIXELS = 500_000;
/** The hand rests this long before the full size is worked on. */
const REST_MS = 260;

interface Desk {
  readonly worker: Worker;
  readonly api: Remote<LiftDeskApi>;
}

function openDesk(): Desk {
  const worker = new Worker(new URL('../workers/lift.worker.ts', import.meta.url), {
    type: 'module',
  });
  return { worker, api: wrap<LiftDeskApi>(worker) };
}

/**
 * A lift in hand: its settings with undo, and what comes of them. A small copy answers while a
 * control moves; the full size follows when the hand rests. Neither keeps the page waiting.
 */
export function useLift() {
  const settings: Ref<LiftSettings> = ref({ ...DEFAULT_LIFT });
  const look = shallowRef<LiftLook | null>(null);
  const pictures = shallowRef<{ photo: ImageBitmap; sheet: ImageBitmap } | null>(null);
  const full = ref<Size | null>(null);
  const hasSheet = ref(false);
  /** What is not taken for paper, where a sheet was found. */
  const veil = shallowRef<ImageBitmap | null>(null);
  const cutsInk = ref(false);
  const step = ref<string | null>(null);
  const problem = ref<string | null>(null);
  const isFull = ref(false);
  /** Of the full size; null until they are traced. */
  const outlines = shallowRef<OutlineLook | null>(null);
  const steps = useSteps(settings);
  const quick = openDesk();
  const thorough = openDesk();
  let isThoroughLoaded = false;
  let isQuickBusy = false;
  let wanted = 0;
  let rest: ReturnType<typeof setTimeout> | undefined;

  async function open(url: string, kept: LiftSettings | null): Promise<void> {
    problem.value = null;
    look.value = null;
    isThoroughLoaded = false;
    step.value = 'Reading the scan';
    try {
      // Both read at once: the small copy is shown while the large one is still being read.
      const reading = thorough.api.load(url, null);
      reading.catch(() => undefined);
      const loaded = await quick.api.load(url, QUICK_PIXELS);
      full.value = loaded.full;
      hasSheet.value = loaded.hasSheet;
      veil.value?.close();
      veil.value = loaded.veil;
      cutsInk.value = loaded.cutsInk;
      step.value = 'Finding the ink';
      settings.value = kept ?? (await quick.api.suggested());
      await nextTick();
      steps.start();
      await showPictures();
      step.value = 'Reading it at full size';
      await reading;
      isThoroughLoaded = true;
      soon();
    } catch (error) {
      fail(error);
    }
  }

  function fail(error: unknown): void {
    step.value = null;
    problem.value = sentenceOf(error);
  }

  async function showPictures(): Promise<void> {
    const made = await quick.api.pictures(plain());
    pictures.value?.photo.close();
    pictures.value?.sheet.close();
    pictures.value = made;
  }

  /** Workers take plain objects, not the page's reactive ones. */
  const plain = (): LiftSettings => JSON.parse(JSON.stringify(settings.value)) as LiftSettings;

  watch(settings, () => {
    if (!full.value) return;
    wanted++;
    void showQuick();
    soon();
  });

  watch(
    () => JSON.stringify([settings.value.corners, settings.value.turn, settings.value.angle]),
    () => void (full.value && showPictures().catch(fail)),
  );

  /** One at a time; what was asked meanwhile is done once, with the newest settings. */
  async function showQuick(): Promise<void> {
    if (isQuickBusy) return;
    isQuickBusy = true;
    try {
      let shown: number;
      do {
        shown = wanted;
        take(await quick.api.look(plain()), false);
      } while (shown !== wanted);
    } catch (error) {
      fail(error);
    } finally {
      isQuickBusy = false;
    }
  }

  function soon(): void {
    clearTimeout(rest);
    rest = setTimeout(() => void showFull(), REST_MS);
  }

  async function showFull(): Promise<void> {
    if (!isThoroughLoaded) return;
    const asked = wanted;
    step.value = 'Lifting at full size';
    try {
      const made = await thorough.api.look(plain());
      // Settings that moved on meanwhile have a full look of their own coming.
      if (asked !== wanted) {
        made.ink?.bitmap.close();
        return;
      }
      take(made, true);
      step.value = 'Tracing outlines';
      const traced = await thorough.api.outlines(plain());
      if (asked !== wanted) return;
      outlines.value = traced;
      step.value = null;
    } catch (error) {
      fail(error);
    }
  }

  function take(made: LiftLook, atFullSize: boolean): void {
    const shown = look.value;
    shown?.ink?.bitmap.close();
    // The same brightness is not drawn again: the chart takes longer than the ink.
    const isSame = shown?.histogram.every((count, bin) => count === made.histogram[bin]);
    look.value = shown && isSame ? { ...made, histogram: shown.histogram } : made;
    isFull.value = atFullSize;
    outlines.value = null;
  }

  function change(part: Partial<LiftSettings>): void {
    settings.value = { ...settings.value, ...part };
  }

  /** At once, with all that is set on the sheet: however quickly it is asked again, or kept. */
  function turn(quarters: 1 | 3): void {
    change(turnedLift(plain(), quarters));
    if (isFitting) void reframe({});
  }

  let reframed = 0;
  let isFitting = false;
  /**
   * Straightening takes hold at once; the crop round the ink follows. A crop that was set means nothing
   * on a sheet with other corners.
   */
  async function reframe(
    part: Partial<Pick<LiftSettings, 'corners' | 'sheet' | 'angle'>>,
  ): Promise<void> {
    const asked = ++reframed;
    isFitting = true;
    const isOther = part.corners !== undefined;
    change({ ...part, strokes: [], ...(isOther ? { crop: null } : {}) });
    try {
      const crop = await quick.api.cropRoundInk({ ...plain(), crop: null });
      // A newer one has a crop of its own coming.
      if (asked === reframed) change({ crop });
    } catch (error) {
      fail(error);
    } finally {
      if (asked === reframed) isFitting = false;
    }
  }

  async function pick(what: 'paper' | 'ink', place: Point): Promise<void> {
    const found = await quick.api.pick(plain(), place).catch(() => null);
    if (!found) return;
    if (what === 'paper') change({ paper: found.level });
    else change({ inkColour: [...found.colour], ink: inkLevelOf(found.colour) });
  }

  useUndoKeys(steps);

  onScopeDispose(() => {
    clearTimeout(rest);
    for (const { api, worker } of [quick, thorough]) {
      api[releaseProxy]();
      worker.terminate();
    }
  });

  return {
    ...{ settings, look, pictures, outlines, full, hasSheet, veil, cutsInk, step, problem, isFull },
    ...{ open, change, turn, reframe, pick },
    ...steps,
    levels: computed(() => look.value?.ink?.levels ?? look.value?.automatic ?? null),
  };
}

export type Lift = ReturnType<typeof useLift>;
