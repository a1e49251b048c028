import { copyFileSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { setTimeout as delay } from 'node:timers/promises';
import { pino } from 'pino';
import type { Layer } from '#core/contract/design';
import { penDrawingSchema } from '#core/contract/pen';
import type { Result } from '#core/result';
import { readConfig, type Config } from '#server/config';
import { buildHouse, type House } from '#server/house';
import { suggestedFor } from '#server/imaging/lift/liftFile';
import { planRun } from '#server/runs/planRun';
import { DEMO_FOLDER, EXAMPLE_PHOTOS } from './examples.ts';
import { DESIGNS, demoDesign } from './designs.ts';
import {
  ADJUSTED,
  BATCHES,
  INBOX,
  FINISHED_RUN,
  MARKS,
  PRESETS,
  SETS,
  SETTINGS,
} from './scenario.ts';
import { DELIVERIES } from './deliveries.ts';

/** Fills a data folder with the demo, by the same code that a photographer's clicks reach. */

const PHOTOS_FOLDER = EXAMPLE_PHOTOS;
const POLL_MS = 50;

export { DEMO_FOLDER };

export async function seedDemo(config: Config): Promise<void> {
  const house = buildHouse(
    { ...config, folders: [...config.folders, DEMO_FOLDER] },
    pino({ level: config.logLevel }),
  );
  try {
    house.tables.settings.set(SETTINGS);
    const marks = await addMarks(house);
    const presets = addPresets(house, marks);
    for (const { name, presets: names } of SETS) {
      house.tables.markSets.insert(
        name,
        names.map((preset) => idOf(presets, preset)),
      );
    }
    const deliveries = addDeliveries(house, presets);
    await addBatches(house, presets, deliveries);
    house.tables.inboxes.insert({
      aside: null,
      ...{ name: INBOX.name, folder: join(DEMO_FOLDER, INBOX.folder), isOn: true },
      presetIds: [idOf(presets, INBOX.preset)],
      deliveryIds: [idOf(deliveries, INBOX.delivery)],
    });
    await finishRun(house);
  } finally {
    await house.close();
  }
}

type Ids = ReadonlyMap<string, number>;

function idOf(ids: Ids, name: string): number {
  const id = ids.get(name);
  if (id === undefined) throw new Error(`The demo has no "${name}".`);
  return id;
}

async function addMarks(house: House): Promise<Ids> {
  const ids = new Map<string, number>();
  for (const mark of MARKS) {
    const added = await addMark(house, mark);
    if (!added.ok) throw new Error(added.reason);
    house.tables.marks.rename(added.value, mark.name);
    ids.set(mark.key, added.value);
  }
  for (const design of DESIGNS) ids.set(design.key, await addDesign(house, design, ids));
  return ids;
}

/** Composed of the artwork of marks that are there already. */
async function addDesign(
  house: House,
  design: (typeof DESIGNS)[number],
  ids: Ids,
): Promise<number> {
  const layerOf = async (key: string): Promise<Layer> => {
    const row = house.tables.marks.get(idOf(ids, key));
    const opened = row && (await house.designs.open(row));
    if (!opened?.ok) {
      throw new Error(
        `The demo has no artwork for "${key}" (${opened?.reason ?? 'no such mark'}).`,
      );
    }
    return { ...opened.value.design.layers[0], id: key };
  };
  const artwork = {
    signature: await layerOf('signature'),
    crest: await layerOf('crest'),
    initials: await layerOf('initials'),
  };
  const added = await house.designs.add(demoDesign(design, artwork), design.name);
  if (!added.ok) throw new Error(added.reason);
  return added.value;
}

async function addMark(house: House, mark: (typeof MARKS)[number]): Promise<Result<number>> {
  const path = join(DEMO_FOLDER, 'marks', mark.file);
  switch (mark.from) {
    case 'file':
      return house.marks.add(readFileSync(path), mark.file);
    case 'pen': {
      const drawing = penDrawingSchema.parse(JSON.parse(readFileSync(path, 'utf8')));
      return house.marks.addDrawing(drawing, mark.name, null);
    }
    case 'paper':
      return addFromPaper(house, path, mark);
    default:
      throw new Error(`Unknown way ${mark satisfies never}`);
  }
}

async function addFromPaper(
  house: House,
  path: string,
  { file, turn, name }: Extract<(typeof MARKS)[number], { from: 'paper' }>,
): Promise<Result<number>> {
  const incoming = house.paths.freshIncoming('scan');
  copyFileSync(path, incoming);
  const scanId = await house.scans.add(incoming, file);
  if (!scanId.ok) return scanId;
  const scan = house.tables.scans.get(scanId.value);
  const settings = await suggestedFor(path, turn);
  if (!scan || !settings.ok) throw new Error(`${file} could not be read.`);
  const wish = { page: 1, settings: settings.value, name, markId: null };
  return house.lifts.keepFinished(scan, wish);
}

function addPresets(house: House, marks: Ids): Ids {
  return new Map(
    PRESETS.map(({ name, mark, rule, isFavourite = false }) => {
      const id = house.tables.presets.insert(name, idOf(marks, mark), rule);
      house.tables.presets.favour(id, isFavourite);
      return [name, id];
    }),
  );
}

function addDeliveries(house: House, presets: Ids): Ids {
  return new Map(
    DELIVERIES.map(({ name, preset, over = [], rule }) => [
      name,
      house.tables.deliveries.insert({
        ...{ name, rule, folder: null, subfolder: 'none', zip: false, favourite: true },
        presetId: idOf(presets, preset),
        overIds: over.map((name) => idOf(presets, name)),
      }),
    ]),
  );
}

async function addBatches(house: House, presets: Ids, deliveries: Ids): Promise<void> {
  const files = readdirSync(PHOTOS_FOLDER).sort();
  for (const { name, preset, delivery, photos } of BATCHES) {
    const id = house.tables.batches.insert(name, idOf(presets, preset), [
      idOf(deliveries, delivery),
    ]);
    const chosen = files.filter(
      (file) => photos === 'all' || photos.some((number) => file.startsWith(`NC26_${number}`)),
    );
    const added = await Promise.all(
      chosen.map((file) => house.intake.addInPlace(id, join(PHOTOS_FOLDER, file))),
    );
    for (const photo of added) if (!photo.ok) throw new Error(photo.reason);
    if (photos === 'all') addAdjustments(house, id);
  }
}

function addAdjustments({ tables }: House, batchId: number): void {
  const photos = tables.photos.ofBatch(batchId);
  for (const [number, adjustment] of Object.entries(ADJUSTED)) {
    const photo = photos.find(({ name }) => name.startsWith(`NC26_${number}`));
    if (!photo) throw new Error(`The demo has no photo ${number}.`);
    tables.adjustments.set(photo.id, adjustment);
  }
}

async function finishRun(house: House): Promise<void> {
  const batch = house.tables.batches.all().find(({ name }) => name === FINISHED_RUN.batch);
  const delivery = house.tables.deliveries.all().find(({ name }) => name === FINISHED_RUN.delivery);
  const preset = house.tables.presets.get(batch?.presetId ?? 0);
  if (!batch || !delivery || !preset) throw new Error('The demo has no run to make.');
  const wish = {
    batchId: batch.id,
    deliveryIds: [delivery.id],
    presetId: preset.id,
    presetName: preset.name,
    markId: preset.markId,
    rule: preset.rule,
    over: [],
    photoIds: null,
    order: null,
  };
  const planning = {
    tables: house.tables,
    exportsFolder: house.paths.exports,
    allowed: house.allowed,
    lifts: house.lifts,
  };
  const id = house.queue.begin(await planRun(wish, planning));
  while (house.tables.runs.get(id)?.state === 'running') await delay(POLL_MS);
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await seedDemo(readConfig());
