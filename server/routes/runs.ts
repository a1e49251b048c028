import { existsSync } from 'node:fs';
import { rename, rm, writeFile } from 'node:fs/promises';
import { basename } from 'node:path';
import { ZipArchive } from 'archiver';
import { Router, type Response } from 'express';
import { runBody } from '#core/contract/http';
import { safeName } from '#core/delivery/namePattern';
import type { RunItemRow } from '../db/runItems.ts';
import type { RunRow } from '../db/runs.ts';
import { conflict, notFound, unusable } from '../http/errors.ts';
import { sendMade } from '../http/onlyOnce.ts';
import { validated } from '../http/validated.ts';
import { planRun, type PlannedRun } from '../runs/planRun.ts';
import { deliveryOf } from '../runs/runNames.ts';
import { runItemView } from '../runs/runViews.ts';
import { idOf, type RouteParts } from './parts.ts';

interface ZipEntry {
  readonly path: string;
  /** Within the ZIP. */
  readonly name: string;
}

/** Runs: planned, begun, steered, and their outputs handed out. */
export function runRoutes(parts: RouteParts): Router {
  const { tables, queue, allowed, paths, imaging, lifts, events, log } = parts;
  const router = Router();
  const planning = { tables, exportsFolder: paths.exports, allowed, lifts };

  const runOf = (id: number): RunRow => {
    const run = tables.runs.get(id);
    if (!run) throw notFound('That run');
    return run;
  };

  router.get('/runs', (_request, response) => {
    response.json(tables.runs.all().map((run) => queue.view(run)));
  });

  router.post('/runs/plan', async (request, response) => {
    response.json((await planRun(validated(runBody, request.body), planning)).view);
  });

  router.post('/runs', async (request, response) => {
    const wish = validated(runBody, request.body);
    const planned = await planRun(wish, planning);
    if (planned.view.problem) throw unusable(planned.view.problem);
    sendMade(response, tables, () => {
      const id = queue.begin(stillThere(planned));
      if (wish.presetId) tables.presets.noteUse(wish.presetId);
      const batch = tables.batches.get(planned.run.batchId ?? 0);
      if (batch) tables.batches.update(batch, { deliveryIds: [...new Set(wish.deliveryIds)] });
      return queue.view(runOf(id));
    });
  });

  /** What a run is made of may have been deleted while its folder was looked at. */
  function stillThere(planned: PlannedRun): PlannedRun {
    const { batchId, deliveries, markId } = planned.run;
    if (!tables.batches.get(batchId ?? 0)) throw notFound('That batch');
    for (const { deliveryId } of deliveries) {
      if (!tables.deliveries.get(deliveryId ?? 0)) throw notFound('That delivery');
    }
    if (!tables.marks.get(markId)) throw notFound('That mark');
    return planned;
  }

  router.get('/runs/:id', (request, response) => {
    const run = runOf(idOf(request));
    response.json({
      run: queue.view(run),
      items: tables.items.ofRun(run.id).map(runItemView),
    });
  });

  const steer = {
    pause: (run: RunRow) => queue.pause(run),
    resume: (run: RunRow) => queue.resume(run),
    cancel: (run: RunRow) => queue.cancel(run),
    retry: (run: RunRow) => queue.retry(run),
  };
  for (const [action, act] of Object.entries(steer)) {
    router.post(`/runs/:id/${action}`, async (request, response) => {
      const run = runOf(idOf(request));
      await act(run);
      response.json(queue.view(runOf(run.id)));
    });
  }

  /** Takes the run off the list; the files it made stay where they are. */
  router.delete('/runs/:id', async (request, response) => {
    const run = runOf(idOf(request));
    if (run.state === 'running' || run.state === 'paused') {
      throw conflict('This run is still under way. Cancel it first.');
    }
    // Of a cancelled run, what was being written is still being finished.
    await queue.settled(run.id);
    const items = tables.items.ofRun(run.id);
    tables.runs.remove(run.id);
    queue.forget(run.id);
    await Promise.all(items.map((item) => rm(paths.outputTile(item.id), { force: true })));
    events.send('run-gone', { id: run.id });
    response.status(204).end();
  });

  router.get('/outputs/:id/tile', async (request, response) => {
    const { item, path } = await outputOf(idOf(request));
    const tile = paths.outputTile(item.id);
    if (!existsSync(tile)) {
      const made = await imaging.outputTile(path);
      if (!made.ok) throw unusable(`${basename(path)} cannot be opened any more.`);
      // Under another name first: a second request must not be given half of it.
      const beside = paths.freshIncoming('tile');
      await writeFile(beside, made.value);
      await rename(beside, tile);
    }
    // Not for ever: a retry writes a new output under the same id.
    response.set('Cache-Control', 'private, no-cache').type('jpeg');
    response.sendFile(tile, { dotfiles: 'allow' });
  });

  router.get('/outputs/:id/view', async (request, response) => {
    const { path } = await outputOf(idOf(request));
    response.set('Cache-Control', 'private, no-cache');
    if (/\.tif$/.test(path)) {
      const jpeg = await imaging.outputAsJpeg(path);
      if (!jpeg.ok) throw unusable(jpeg.reason);
      response.type('jpeg').send(Buffer.from(jpeg.value));
      return;
    }
    response.sendFile(path, { dotfiles: 'allow' });
  });

  router.get('/outputs/:id/file', async (request, response) => {
    const { path } = await outputOf(idOf(request));
    response.download(path, basename(path), { dotfiles: 'allow' });
  });

  router.get('/runs/:id/zip', async (request, response) => {
    const run = runOf(idOf(request));
    const outputs: ZipEntry[] = [];
    const isOne = run.deliveries.length === 1;
    for (const item of tables.items.ofRun(run.id)) {
      const { status, output } = item;
      if (status !== 'written' || output === null || !(await isUsableOutput(output))) continue;
      // Deliveries into folders of their own may use one name twice.
      const folder = isOne ? '' : `${safeName(deliveryOf(run, item).name)}/`;
      outputs.push({ path: output, name: `${folder}${basename(output)}` });
    }
    if (outputs.length === 0)
      throw unusable('This run has no outputs that could be put into a ZIP.');
    const delivery = isOne ? ` ${run.deliveries[0].name}` : '';
    const name = safeName(`${run.batchName}${delivery}`) || 'Light Crest';
    response.attachment(`${name}.zip`).type('zip');
    await sendZip(outputs, response);
  });

  /** Streamed as it is made, and stored as it is: photos do not shrink any further. */
  async function sendZip(outputs: readonly ZipEntry[], response: Response): Promise<void> {
    const zip = new ZipArchive({ store: true });
    zip.on('error', (error: Error) => {
      log.error({ err: error }, 'a ZIP ended early');
      response.destroy(error);
    });
    response.on('close', () => zip.destroy());
    zip.pipe(response);
    for (const { path, name } of outputs) zip.file(path, { name });
    await zip.finalize();
  }

  async function outputOf(itemId: number): Promise<{ item: RunItemRow; path: string }> {
    const item = tables.items.get(itemId);
    if (!item?.output || (item.status !== 'written' && item.status !== 'skipped')) {
      throw notFound('That output');
    }
    if (!(await isUsableOutput(item.output))) throw notFound(basename(item.output));
    return { item, path: item.output };
  }

  async function isUsableOutput(path: string): Promise<boolean> {
    return (await allowed.resolve(path)).ok && existsSync(path);
  }

  return router;
}
