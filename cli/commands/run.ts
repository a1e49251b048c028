import { setTimeout as delay } from 'node:timers/promises';
import type {
  BatchView,
  DeliveryView,
  PresetView,
  RunDetailView,
  RunView,
  RunWish,
} from '#core/contract/http';
import { inOrder } from '#core/batch/benchMarks';
import { withSuffix } from '#core/placement/suggestName';
import { CallError, EXIT } from '../exit.ts';
import { Progress } from '../progress.ts';
import { NoAnswer, openOwnData, type OwnData } from '../server.ts';
import { isEnded, printDocuments, printItem } from './runReport.ts';

export interface RunOptions {
  readonly delivery: readonly string[];
  readonly json?: true;
}

const ASK_EVERY_MS = 300;
/** A server that has the run may be started again meanwhile, and goes on with it then. */
const RESTART_MS = 20_000;

/** Exports a batch of the application's own data, as its bench has it, by deliveries of that. */
export async function run(batchName: string, options: RunOptions): Promise<number> {
  const data = await openOwnData();
  try {
    const wish = await wishFor(batchName, options.delivery, data);
    const begun = await data.post<RunView>('/runs', wish);
    return await followed(begun, data, options.json ?? false);
  } finally {
    await data.close();
  }
}

async function wishFor(
  batchName: string,
  deliveryNames: readonly string[],
  data: OwnData,
): Promise<RunWish> {
  const batch = named(await data.get<BatchView[]>('/batches'), batchName, 'batch');
  const deliveries = await data.get<DeliveryView[]>('/deliveries');
  const chosen =
    deliveryNames.length > 0
      ? deliveryNames.map((name) => named(deliveries, name, 'delivery').id)
      : [...batch.deliveryIds];
  if (chosen.length === 0) {
    throw new CallError(`${batch.name} has no deliveries yet. Name one by --delivery.`);
  }
  const presets = await data.get<PresetView[]>('/presets');
  const preset = presets.find(({ id }) => id === batch.presetId) ?? null;
  // What its bench holds comes before the preset as it is saved.
  const { placing } = batch;
  const markId = placing?.markId ?? preset?.markId ?? null;
  const rule = placing?.rule ?? preset?.rule ?? null;
  if (markId === null || rule === null) {
    throw new CallError(`${batch.name} has no mark yet. Open it in Light Crest and choose one.`);
  }
  const name = preset?.name ?? 'own placement';
  const hand = {
    ...{ presetId: preset?.id ?? null, markId, rule },
    presetName: placing && preset ? withSuffix(name, ', changed') : name,
  };
  const others = batch.beside.marks.flatMap((mark) => besideWish(mark, presets));
  // The first of them all is the run's own; the others lie over it.
  const [first, ...over] = inOrder(hand, others, batch.beside.at);
  return {
    ...{ batchId: batch.id, deliveryIds: chosen, photoIds: null, order: null, ...first },
    // What its bench holds is for the delivery that is shown there, and for those without presets.
    shownDeliveryId: batch.deliveryIds[0] ?? null,
    over: over.flatMap(({ presetId, ...mark }) =>
      presetId === null ? [] : [{ presetId, ...mark }],
    ),
  };
}

/** A mark beside the one in hand; a preset that is gone is no mark. */
function besideWish(
  { presetId, placing }: BatchView['beside']['marks'][number],
  presets: readonly PresetView[],
) {
  const preset = presets.find(({ id }) => id === presetId);
  if (!preset) return [];
  const presetName = placing ? withSuffix(preset.name, ', changed') : preset.name;
  const { markId, rule } = { ...preset, ...(placing ?? {}) };
  return [{ presetId, presetName, markId: markId ?? preset.markId, rule }];
}

/** By its name, or by its number where it has no other. */
function named<T extends { readonly id: number; readonly name: string }>(
  all: readonly T[],
  wanted: string,
  kind: string,
): T {
  const found = all.filter(({ name }) => name === wanted);
  const [one = all.find(({ id }) => String(id) === wanted), ...more] = found;
  if (more.length > 0) {
    const ids = found.map(({ id }) => id).join(', ');
    throw new CallError(`There are ${found.length} of the name "${wanted}"; say which: ${ids}.`);
  }
  if (one) return one;
  const names = all.map(({ name }) => `"${name}"`).join(', ');
  throw new CallError(`There is no ${kind} "${wanted}". There are: ${names || 'none'}.`);
}

async function followed(begun: RunView, data: OwnData, json: boolean): Promise<number> {
  const progress = new Progress(begun.total);
  const counted = new Set<number>();
  let isPaused = false;
  let change = 0;
  for (;;) {
    const found = await lookedAt(`/runs/${begun.id}?since=${change}`, data);
    if (found === null) {
      const told = 'Light Crest was stopped. It goes on with the run when it is started again.';
      process.stderr.write(`light-crest: ${told}\n`);
      return EXIT.someFailed;
    }
    const { run: now, items } = found;
    ({ change } = found);
    for (const item of items) {
      if (!isEnded(item)) continue;
      // One that failed may have been tried again meanwhile: each of its ends is told, and it counts once.
      if (!counted.has(item.id)) progress.step();
      counted.add(item.id);
      printItem(item, now, json);
    }
    if (now.state === 'paused' && now.problem === null && !isPaused) {
      process.stderr.write('light-crest: The run was paused, and waits for Go on.\n');
    }
    isPaused = now.state === 'paused';
    if (isPaused && now.problem !== null) {
      process.stderr.write(`light-crest: ${now.problem} The run waits until that is mended.\n`);
      return EXIT.someFailed;
    }
    if (now.state === 'done' || now.state === 'cancelled') {
      progress.end();
      now.documents.forEach((documents) => printDocuments(documents, now, json));
      const isShort = now.documents.some(({ error }) => error !== null);
      return now.failed > 0 || now.cancelled > 0 || isShort ? EXIT.someFailed : EXIT.done;
    }
    await delay(ASK_EVERY_MS);
  }
}

/** @returns null: nobody has answered for a while */
async function lookedAt(path: string, data: OwnData): Promise<RunDetailView | null> {
  const giveUpMs = Date.now() + RESTART_MS;
  while (Date.now() < giveUpMs) {
    try {
      return await data.get<RunDetailView>(path);
    } catch (error) {
      if (!(error instanceof NoAnswer)) throw error;
      await delay(ASK_EVERY_MS);
    }
  }
  return null;
}
