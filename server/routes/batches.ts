import { rm } from 'node:fs/promises';
import { Router } from 'express';
import {
  batchBody,
  batchChangeBody,
  folderImportBody,
  removePhotosBody,
  uploadQuery,
  type PhotoView,
} from '#core/contract/http';
import { adjustmentsBody } from '#core/contract/readability';
import type { BatchRow } from '../db/batches.ts';
import type { PhotoRow } from '../db/photos.ts';
import { notFound, unusable } from '../http/errors.ts';
import { receiveUpload } from '../http/receiveUpload.ts';
import { validated } from '../http/validated.ts';
import { yearOf } from '../imaging/photo/probe.ts';
import type { PreviewKind } from '../storage/dataPaths.ts';
import { idOf, KEEP_FOREVER, type RouteParts } from './parts.ts';

/** Batches and the photos in them. */
export function batchRoutes({ tables, imports, allowed, paths }: RouteParts): Router {
  const router = Router();

  const batchOf = (id: number): BatchRow => {
    const batch = tables.batches.get(id);
    if (!batch) throw notFound('That batch');
    return batch;
  };

  router.get('/batches', (_request, response) => {
    response.json(tables.batches.all());
  });

  router.post('/batches', (request, response) => {
    const { name, presetId = null, deliveryId = null } = validated(batchBody, request.body);
    const id = tables.batches.insert(name, presetId, deliveryId);
    response.status(201).json(batchOf(id));
  });

  router.get('/batches/:id', (request, response) => {
    const batch = batchOf(idOf(request));
    response.json({
      batch,
      photos: tables.photos.ofBatch(batch.id).map(photoView),
      adjustments: tables.adjustments.ofBatch(batch.id),
      reading: imports.progress(batch.id),
    });
  });

  /** Somebody works on it: it comes first on the start page. */
  router.post('/batches/:id/opened', (request, response) => {
    tables.batches.touch(batchOf(idOf(request)).id);
    response.status(204).end();
  });

  router.patch('/batches/:id', (request, response) => {
    const batch = batchOf(idOf(request));
    const change = validated(batchChangeBody, request.body);
    const given = Object.fromEntries(
      Object.entries(change).filter(([, value]) => value !== undefined),
    );
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
    const batch = batchOf(idOf(request));
    imports.cancelFolder(batch.id);
    const photos = tables.photos.ofBatch(batch.id);
    tables.batches.remove(batch.id);
    await Promise.all(photos.map(removeFiles));
    response.status(204).end();
  });

  router.post('/batches/:id/photos', async (request, response) => {
    const batch = batchOf(idOf(request));
    const { name, modified } = validated(uploadQuery, request.query);
    const incoming = imports.incomingPath();
    if (!(await receiveUpload(request, incoming))) return;
    const added = await imports.addCopied(batch.id, incoming, name, modified);
    if (!added.ok) throw unusable(added.reason);
    const photo = tables.photos.get(added.value);
    response.status(201).json(photo ? photoView(photo) : null);
  });

  router.post('/batches/:id/folders', async (request, response) => {
    const batch = batchOf(idOf(request));
    const { path } = validated(folderImportBody, request.body);
    const folder = allowed.resolve(path);
    if (!folder.ok) throw unusable(folder.reason);
    const begun = await imports.addFolder(batch.id, folder.value);
    if (!begun.ok) throw unusable(begun.reason);
    response.status(202).json(imports.progress(batch.id));
  });

  router.delete('/batches/:id/folders', (request, response) => {
    imports.cancelFolder(idOf(request));
    response.status(204).end();
  });

  router.post('/batches/:id/photos/remove', async (request, response) => {
    const batch = batchOf(idOf(request));
    const { ids } = validated(removePhotosBody, request.body);
    const photos = ids
      .map((id) => tables.photos.get(id))
      .filter((photo) => photo !== null)
      .filter((photo) => photo.batchId === batch.id);
    tables.together(() => photos.forEach((photo) => tables.photos.remove(photo.id)));
    await Promise.all(photos.map(removeFiles));
    response.status(204).end();
  });

  for (const kind of ['proxy', 'tile'] as const satisfies readonly PreviewKind[]) {
    router.get(`/photos/:id/${kind}`, (request, response) => {
      const id = idOf(request);
      response.set('Cache-Control', KEEP_FOREVER).type('jpeg');
      response.sendFile(paths.preview(id, kind), { dotfiles: 'allow' }, (error) => {
        if (error && !response.headersSent) response.status(404).end();
      });
    });
  }

  /** Our own files only: a photo that is read in place stays where it is. */
  async function removeFiles(photo: PhotoRow): Promise<void> {
    const own = [paths.preview(photo.id, 'proxy'), paths.preview(photo.id, 'tile')];
    if (photo.origin === 'copied') own.push(photo.path);
    await Promise.all(own.map((path) => rm(path, { force: true })));
  }

  return router;
}

function photoView(photo: PhotoRow): PhotoView {
  const { id, name, origin, bytes, format, width, height, bits } = photo;
  const { profile, capturedAt, camera, lens, lightness } = photo;
  return {
    ...{ id, name, origin, bytes, format, width, height, bits },
    ...{ profile, capturedAt, camera, lens, lightness },
    year: yearOf(capturedAt, photo.modifiedMs).year,
  };
}
