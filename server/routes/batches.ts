import { Router } from 'express';
import { samplePhotos } from '#core/batch/samplePhotos';
import {
  newBatchBody,
  batchChangeBody,
  folderImportBody,
  removePhotosBody,
  uploadQuery,
  type PhotoView,
} from '#core/contract/http';
import { adjustmentsBody } from '#core/contract/readability';
import type { BatchChange, BatchRow } from '../db/batches.ts';
import type { PhotoRow } from '../db/photos.ts';
import { conflict, notFound, storageFull, unusable } from '../http/errors.ts';
import { sendMade } from '../http/onlyOnce.ts';
import { receiveUpload } from '../http/receiveUpload.ts';
import { validated } from '../http/validated.ts';
import { yearOf } from '../imaging/photo/probe.ts';
import type { PreviewKind } from '../storage/dataPaths.ts';
import { storageSentence } from '../storage/storageErrors.ts';
import { idOf, KEEP_FOREVER, type RouteParts } from './parts.ts';

/** Batches and the photos in them. */
export function batchRoutes(parts: RouteParts): Router {
  const { tables, batches, intake, imports, freshness, allowed, paths } = parts;
  const router = Router();

  const batchOf = (id: number): BatchRow => {
    const batch = tables.batches.get(id);
    if (!batch) throw notFound('That batch');
    return batch;
  };

  router.get('/batches', (_request, response) => {
    response.json(tables.batches.all());
  });

  router.get('/samples', (_request, response) => {
    const batch = tables.batches.all().find(({ photoCount }) => photoCount > 0) ?? null;
    const photos = batch ? samplePhotos(tables.photos.ofBatch(batch.id)) : [];
    response.json({ batch, photos: photos.map(photoView) });
  });

  router.post('/batches', (request, response) => {
    const wish = validated(newBatchBody, request.body);
    const { name, presetId = null, deliveryIds = [], beside } = wish;
    sendMade(response, tables, () => {
      const id = tables.batches.insert(name, presetId, deliveryIds);
      if (beside) tables.batches.update(batchOf(id), { beside });
      return batchOf(id);
    });
  });

  router.get('/batches/:id', (request, response) => {
    const batch = batchOf(idOf(request));
    response.json({
      batch,
      photos: tables.photos.ofBatch(batch.id).map(photoView),
      adjustments: tables.adjustments.ofBatch(batch.id),
      reading: imports.underWay(batch.id),
      /** The last folder that was read, where some of it was refused. */
      lastReading: imports.lastWithRefusals(batch.id),
    });
    freshness.lookThrough(batch.id);
  });

  /** Somebody works on it: it comes first on the start page. */
  router.post('/batches/:id/opened', (request, response) => {
    tables.batches.touch(batchOf(idOf(request)).id);
    response.status(204).end();
  });

  router.patch('/batches/:id', (request, response) => {
    const batch = batchOf(idOf(request));
    const change = validated(batchChangeBody, request.body);
    const given: BatchChange = Object.fromEntries(
      Object.entries(change).filter(([, value]) => value !== undefined),
    );
    // One that is gone for good, since the bin was emptied elsewhere, is named no longer.
    const { presetId } = given;
    if (presetId && !tables.presets.get(presetId)) Object.assign(given, { presetId: null });
    tables.batches.update(batch, given);
    response.json(batchOf(batch.id));
  });

  router.put('/batches/:id/adjustments', (request, response) => {
    const batch = batchOf(idOf(request));
    const { changes } = validated(adjustmentsBody, request.body);
    const own = new Set(tables.photos.ofBatch(batch.id).map(({ id }) => id));
    tables.together(() => {
      // A photo may have been taken out of the batch a moment ago.
      const here = changes.filter(({ photoId }) => own.has(photoId));
      for (const { photoId, adjustment } of here) tables.adjustments.set(photoId, adjustment);
    });
    response.status(204).end();
  });

  router.delete('/batches/:id', async (request, response) => {
    await batches.discard(batchOf(idOf(request)).id);
    response.status(204).end();
  });

  router.post('/batches/:id/photos', async (request, response) => {
    const batch = batchOf(idOf(request));
    const { name, modified } = validated(uploadQuery, request.query);
    const path = paths.freshIncoming('upload');
    const contentHash = await receiveUpload(request, path);
    if (contentHash === null) return void response.end();
    const file = { path, name, modifiedMs: modified, contentHash };
    const added = await intake.addCopied(batch.id, file).catch((error: unknown) => {
      throw storageFull(storageSentence(path, error));
    });
    if (!added.ok) throw unusable(added.reason);
    const { photoId, isAlready } = added.value;
    const photo = tables.photos.get(photoId);
    if (!photo) throw notFound('That photo');
    response.status(isAlready ? 200 : 201).json(photoView(photo));
  });

  router.post('/batches/:id/folders', async (request, response) => {
    const batch = batchOf(idOf(request));
    const { path } = validated(folderImportBody, request.body);
    const folder = await allowed.resolve(path);
    if (!folder.ok) throw unusable(folder.reason);
    const begun = await imports.begin(batch.id, folder.value);
    if (!begun.ok) throw unusable(begun.reason);
    response.status(202).json(imports.newest(batch.id));
  });

  /** Goes on with a reading that is paused; reads once more what the last one refused. */
  router.post('/batches/:id/folders/resume', async (request, response) => {
    const batch = batchOf(idOf(request));
    await imports.resume(batch.id);
    response.json(imports.newest(batch.id));
  });

  router.delete('/batches/:id/folders', async (request, response) => {
    await imports.cancel(batchOf(idOf(request)).id);
    response.status(204).end();
  });

  router.post('/batches/:id/photos/remove', (request, response) => {
    const batch = batchOf(idOf(request));
    const { ids } = validated(removePhotosBody, request.body);
    const photos = ids
      .map((id) => tables.photos.get(id))
      .filter((photo) => photo !== null)
      .filter((photo) => photo.batchId === batch.id);
    const awaited = tables.items.photosAwaited(batch.id);
    const inRun = photos.filter(({ id }) => awaited.has(id)).length;
    if (inRun > 0) {
      const those = photos.length === 1 ? 'This photo is' : `${inRun} of these photos are`;
      throw conflict(`${those} still to be exported. Wait for the run's end, or cancel it first.`);
    }
    batches.discardPhotos(batch, photos);
    response.status(204).end();
  });

  for (const kind of ['proxy', 'tile'] as const satisfies readonly PreviewKind[]) {
    router.get(`/photos/:id/${kind}`, (request, response) => {
      const id = idOf(request);
      // A photo that was read again has new pictures, which are asked for by its version.
      const kept = request.query.v === undefined ? 'private, no-cache' : KEEP_FOREVER;
      response.set('Cache-Control', kept).type('jpeg');
      response.sendFile(paths.preview(id, kind), { dotfiles: 'allow' }, (error) => {
        if (error && !response.headersSent) response.status(404).end();
      });
    });
  }

  return router;
}

function photoView(photo: PhotoRow): PhotoView {
  const { id, name, origin, bytes, format, width, height, bits } = photo;
  const { profile, capturedAt, camera, lens, place, caption, artist } = photo;
  const { lightness, version, note } = photo;
  return {
    ...{ id, name, origin, bytes, format, width, height, bits },
    ...{ profile, capturedAt, camera, lens, place, caption, artist, lightness, version, note },
    year: yearOf(capturedAt, photo.modifiedMs).year,
  };
}
