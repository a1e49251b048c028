import { readdirSync, readFileSync, statSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import Database from 'better-sqlite3';
import sharp from 'sharp';
import type {
  BatchView,
  InboxView,
  ImportView,
  PhotoView,
  PresetView,
  RunDetailView,
  RunView,
} from '#core/contract/http';
import { until } from '#tests/helpers/house';
import { checkDocuments } from './documents.ts';
import { FAIR_REASONS } from './fairReasons.ts';
import { hashOf, type World } from './world.ts';

/** What must hold after whatever happened, once all disks are back and the server is up. */

interface OpenBatch {
  readonly photos: PhotoView[];
  readonly adjustments: { photoId: number; adjustment: { opacity?: number } }[];
  readonly reading: ImportView | null;
}

const REST_MS = 60_000;
const LEFTOVER_MS = 15_000;

export async function broken(world: World): Promise<string[]> {
  const problems: string[] = [];
  const details = await comeToRest(world, problems);
  checkOriginals(world, problems);
  await checkConfirmed(world, problems);
  const documents = await checkDocuments(world, details, problems);
  await checkOutputs(world, details, documents, problems);
  await checkInbox(world, details, problems);
  await checkLeftovers(world, problems);
  if (/nobody looked after/.test(world.said()))
    problems.push(`a failure without an owner: ${world.said()}`);
  return problems;
}

/** Everything that can go on is let go on, until nothing moves any more. */
async function comeToRest(world: World, problems: string[]): Promise<RunDetailView[]> {
  const retried = new Set<number>();
  try {
    await until(
      async () => {
        const { status, body: inboxes } = await world.get<InboxView[]>('/inboxes');
        if (status !== 200) return 'the server does not answer';
        const open: string[] = [];
        // Before the runs: what is taken now is in one of them.
        for (const { taken, waiting, problem } of inboxes) {
          if (taken < world.dropped.size || waiting > 0) {
            open.push(`inbox: ${taken} of ${world.dropped.size} taken (${problem ?? 'watching'})`);
          }
        }
        const { body: runs } = await world.get<RunView[]>('/runs');
        const { body: batches } = await world.get<BatchView[]>('/batches');
        for (const { id } of batches) {
          const { body } = await world.get<OpenBatch>(`/batches/${id}`);
          if (!body.reading) continue;
          open.push(`import of batch ${id}: ${body.reading.state}`);
          if (body.reading.state === 'paused') {
            await world.send('POST', `/batches/${id}/folders/resume`);
          }
        }
        for (const run of runs) {
          const ended = run.written + run.skipped + run.failed + run.cancelled;
          const isEnded = run.state === 'done' || run.state === 'cancelled';
          if (!isEnded || ended < run.total)
            open.push(`run ${run.id}: ${run.state}, ${ended} of ${run.total}`);
          if (run.state === 'paused') await world.send('POST', `/runs/${run.id}/resume`);
          // Once everything is back, what failed for want of it is made.
          const hasFailed = run.failed > 0 || run.documents.some(({ error }) => error !== null);
          if (run.state === 'done' && hasFailed && !retried.has(run.id)) {
            retried.add(run.id);
            await world.retry(run);
            open.push(`run ${run.id} is tried again`);
          }
        }
        return open.join('; ');
      },
      (open) => open === '',
      REST_MS,
    );
  } catch (error) {
    problems.push(`it does not come to rest: ${(error as Error).message}`);
  }
  const { body: runs } = await world.get<RunView[]>('/runs');
  const details = await Promise.all(
    (runs ?? []).map(async ({ id }) => (await world.get<RunDetailView>(`/runs/${id}`)).body),
  );
  for (const { run, items } of details) {
    for (const { status, error, sourceName } of items) {
      if (!/written|skipped|failed|cancelled/.test(status)) {
        problems.push(`run ${run.id}: ${sourceName} is left ${status}`);
      }
      if (status === 'failed' && !FAIR_REASONS.test(error ?? '')) {
        problems.push(`run ${run.id}: ${sourceName} failed for no good reason: ${error}`);
      }
    }
  }
  return details;
}

function checkOriginals(world: World, problems: string[]): void {
  for (const [path, hash] of world.originals) {
    try {
      if (hashOf(readFileSync(path)) !== hash) problems.push(`${path} is not what it was`);
    } catch {
      problems.push(`${path} is gone`);
    }
  }
}

async function checkConfirmed(world: World, problems: string[]): Promise<void> {
  const { confirmed } = world;
  const { body: presets } = await world.get<PresetView[]>('/presets');
  for (const [id, name] of confirmed.presets) {
    if (presets.find((preset) => preset.id === id)?.name !== name) {
      problems.push(`preset ${id} is not called ${name}`);
    }
  }
  const { body: settings } = await world.get<{ surround: string }>('/settings');
  if (confirmed.surround && settings.surround !== confirmed.surround) {
    problems.push(`the surround is ${settings.surround}, not ${confirmed.surround}`);
  }
  const { body: batches } = await world.get<BatchView[]>('/batches');
  const ids = new Set(batches.map(({ id }) => id));
  for (const id of confirmed.batches) if (!ids.has(id)) problems.push(`batch ${id} is lost`);
  for (const id of confirmed.goneBatches) if (ids.has(id)) problems.push(`batch ${id} is back`);
  const adjusted = new Map<number, number | null>();
  for (const id of ids) {
    const { body } = await world.get<OpenBatch>(`/batches/${id}`);
    for (const { photoId, adjustment } of body.adjustments) {
      adjusted.set(photoId, adjustment.opacity ?? null);
    }
    checkPhotos(world, id, body.photos, problems);
  }
  for (const [id, opacity] of confirmed.adjustments) {
    if ((adjusted.get(id) ?? null) !== opacity)
      problems.push(`the adjustment of photo ${id} is lost`);
  }
  checkInPlace(world, problems);
  for (const [key, runs] of confirmed.runs) {
    if (runs.size > 1) problems.push(`the run asked for by ${key} was begun ${runs.size} times`);
  }
}

/** Each photo once, with its pictures and, where it was copied, its copy. */
function checkPhotos(
  world: World,
  batchId: number,
  photos: readonly PhotoView[],
  problems: string[],
): void {
  const copies = readdirSync(join(world.data, 'photos'));
  const hashes: string[] = [];
  for (const { id, name, origin } of photos) {
    for (const kind of ['proxy', 'tile']) {
      const path = join(world.data, 'previews', `${id}-${kind}.jpg`);
      if (!isFile(path)) problems.push(`photo ${id} of batch ${batchId} has no ${kind}`);
    }
    const copy = copies.find((file) => file.split('.')[0] === String(id));
    if (origin === 'in-place') continue;
    if (!copy) problems.push(`the copy of ${name} in batch ${batchId} is lost`);
    else hashes.push(hashOf(readFileSync(join(world.data, 'photos', copy))));
  }
  if (new Set(hashes).size < hashes.length) problems.push(`a photo is twice in batch ${batchId}`);
  for (const hash of world.confirmed.uploads.get(batchId) ?? []) {
    if (!hashes.includes(hash)) problems.push(`a copied photo of batch ${batchId} is lost`);
  }
}

/** Read from the database: views do not tell where photos lie. */
function checkInPlace(world: World, problems: string[]): void {
  const db = new Database(join(world.data, 'light-crest.sqlite'), { readonly: true });
  const twice = db
    .prepare(
      `SELECT batch_id, path FROM photos WHERE origin = 'in-place'
       GROUP BY batch_id, path HAVING count(*) > 1`,
    )
    .all() as { batch_id: number; path: string }[];
  db.close();
  for (const { batch_id, path } of twice) problems.push(`${path} is twice in batch ${batch_id}`);
}

function isFile(path: string): boolean {
  return statSync(path, { throwIfNoEntry: false })?.isFile() ?? false;
}

/** Whole, and neither fewer nor more than the runs say. */
async function checkOutputs(
  world: World,
  details: readonly RunDetailView[],
  documents: readonly string[],
  problems: string[],
): Promise<void> {
  const named = new Set<string>();
  const numbered = new Set<string>();
  for (const { run, items } of details) {
    const written = items.filter(
      ({ status, delivery }) =>
        status === 'written' && run.deliveries[delivery - 1].kind === 'files',
    );
    const paths = written.map(({ delivery, outputName }) =>
      join(run.deliveries[delivery - 1].folder, outputName ?? ''),
    );
    if (new Set(paths).size < paths.length) problems.push(`run ${run.id} gave a name twice`);
    for (const [index, path] of paths.entries()) {
      const { deliveryId } = run.deliveries[written[index].delivery - 1];
      const keepsAll = world.keepsAll.has(deliveryId ?? 0);
      if (keepsAll && numbered.has(path))
        problems.push(`${path} was written over by run ${run.id}`);
      if (keepsAll) numbered.add(path);
      named.add(path);
    }
  }
  const outs = details.flatMap(({ run }) => run.deliveries.map(({ folder }) => folder));
  const folders = new Set([...outs, world.out, world.smallFolder]);
  for (const folder of folders) {
    for (const path of filesIn(folder)) {
      if (!isFile(path) || world.originals.has(path) || basename(path).startsWith('.')) continue;
      if (named.has(path) || documents.includes(path) || world.earlierDocuments.has(path)) continue;
      problems.push(`${path} belongs to no run`);
    }
  }
  for (const path of named) {
    try {
      await sharp(path, { failOn: 'warning' }).raw().toBuffer();
    } catch (error) {
      problems.push(`${path} is not whole: ${(error as Error).message}`);
    }
  }
}

/** Each photo that was put into it is in one run, once. */
async function checkInbox(
  world: World,
  details: readonly RunDetailView[],
  problems: string[],
): Promise<void> {
  const { body: inboxes } = await world.get<InboxView[]>('/inboxes');
  for (const { unread } of inboxes) if (unread > 0) problems.push(`inbox: ${unread} were not read`);
  const times = new Map<string, number>();
  for (const { run, items } of details) {
    const below = run.batchName.startsWith('Inbox, ') ? `${run.batchName.slice(7)}/` : '';
    for (const { sourceName } of items) {
      const name = below + sourceName;
      if (run.batchName.startsWith('Inbox')) times.set(name, (times.get(name) ?? 0) + 1);
    }
  }
  for (const name of world.dropped) {
    const count = times.get(name) ?? 0;
    if (count !== 1) problems.push(`inbox: ${name} is ${count} times in a run`);
  }
}

async function checkLeftovers(world: World, problems: string[]): Promise<void> {
  const incoming = (): string[] => readdirSync(join(world.data, 'incoming'));
  // An upload whose line broke is still being worked on.
  await until(incoming, (names) => names.length === 0, LEFTOVER_MS).catch(() =>
    problems.push(`left in incoming: ${incoming().join(', ')}`),
  );
  const exports = join(world.data, 'exports');
  const folders = [
    ...[...world.folders, world.out, world.smallFolder, world.inboxOut],
    ...[world.inbox, join(world.inbox, 'day 2'), join(world.inboxOut, 'day 2')],
    ...readdirSync(exports).map((name) => join(exports, name)),
  ];
  for (const folder of folders) {
    const partsOf = (): string[] => filesIn(folder).filter((path) => path.endsWith('.part'));
    // A worker that was frozen takes its own away when it is awake.
    const parts = await until(partsOf, (some) => some.length === 0, LEFTOVER_MS).catch(partsOf);
    if (parts.length > 0) problems.push(`temporary files in ${dirname(parts[0])}: ${parts.length}`);
  }
}

function filesIn(folder: string): string[] {
  try {
    return readdirSync(folder).map((name) => join(folder, name));
  } catch {
    return [];
  }
}
