import { readFile, rm } from 'node:fs/promises';
import { Router, type Response } from 'express';
import {
  runBody,
  runDetailQuery,
  runOrderBody,
  sheetBody,
  type RunDetailView,
  type RunWish,
} from '#core/contract/http';
import type { RunItemRow } from '../db/runItemRows.ts';
import type { RunRow } from '../db/runs.ts';
import { conflict, notFound, unusable } from '../http/errors.ts';
import { sendMade } from '../http/onlyOnce.ts';
import { validated } from '../http/validated.ts';
import { addedSince, againWish } from '../runs/againRun.ts';
import { planRun, type PlannedRun } from '../runs/planRun.ts';
import { sheetPreview } from '../runs/sheetPreview.ts';
import { writtenAway } from '../runs/writtenAway.ts';
import { runItemView } from '../runs/runViews.ts';
import { idOf, type RouteParts } from './parts.ts';

/** Runs: planned, begun, ordered, steered. */
export function runRoutes(parts: RouteParts): Router {
  const { tables, queue, allowed, paths, lifts, events } = parts;
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

  /** A sheet as the run would print it, as a JPEG. */
  router.post('/runs/sheet', async (request, response) => {
    const { run, delivery, sheet } = validated(sheetBody, request.body);
    const picture = await sheetPreview(await planRun(run, planning), delivery, sheet, parts);
    if (!picture.ok) throw unusable(picture.reason);
    const bytes = await readFile(picture.value);
    await rm(picture.value, { force: true });
    response.type('jpeg').send(bytes);
  });

  router.post('/runs', async (request, response) => {
    await begin(validated(runBody, request.body), response);
  });

  /** The same deliveries and placement once more, for the photos that came into the batch since. */
  router.post('/runs/:id/again', async (request, response) => {
    const wish = againWish(runOf(idOf(request)), tables);
    if (!wish) throw unusable('No photos came into its batch since, or its deliveries are gone.');
    await begin(wish, response);
  });

  async function begin(wish: RunWish, response: Response): Promise<void> {
    const planned = await planRun(wish, planning);
    if (planned.view.problem) throw unusable(planned.view.problem);
    sendMade(response, tables, () => {
      const id = queue.begin(stillThere(planned));
      if (wish.presetId) tables.presets.noteUse(wish.presetId);
      return queue.view(runOf(id));
    });
  }

  router.post('/runs/order', (request, response) => {
    const { ids } = validated(runOrderBody, request.body);
    tables.runs.order(ids);
    for (const id of ids) {
      const run = tables.runs.get(id);
      if (run) events.send('run', queue.view(run));
    }
    response.status(204).end();
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
    const { since } = validated(runDetailQuery, request.query);
    const view: RunDetailView = {
      run: queue.view(run),
      items: itemsSince(run.id, since ?? null).map(runItemView),
      change: tables.items.lastChange(run.id),
      addedSince: addedSince(run, tables).length,
    };
    response.json(view);
  });

  /** Files that were moved, renamed or deleted since, or whose disk is away. */
  router.get('/runs/:id/away', async (request, response) => {
    response.json(await writtenAway(runOf(idOf(request)), tables, allowed));
  });

  function itemsSince(runId: number, change: number | null): RunItemRow[] {
    if (change === null) return tables.items.ofRun(runId);
    return change === 0 ? tables.items.ended(runId) : tables.items.changedSince(runId, change);
  }

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
    await rm(paths.preparedOf(run.id), { recursive: true, force: true });
    events.send('run-gone', { id: run.id });
    response.status(204).end();
  });

  return router;
}
