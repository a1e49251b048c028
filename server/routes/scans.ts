import { Router } from 'express';
import { artworkQuery, liftBody, scanPageQuery } from '#core/contract/http';
import type { ScanRow } from '../db/scans.ts';
import { notFound, unusable } from '../http/errors.ts';
import { receiveUpload } from '../http/receiveUpload.ts';
import { validated } from '../http/validated.ts';
import { MAX_SCAN_BYTES } from '../imaging/limits.ts';
import { idOf, KEEP_FOREVER, type RouteParts } from './parts.ts';

/** Sheets of paper and PDFs as they were brought in, and what is lifted from them. */
export function scanRoutes({ tables, scans, marks, lifts, paths }: RouteParts): Router {
  const router = Router();

  const scanOf = (id: number): ScanRow => {
    const scan = tables.scans.get(id);
    if (!scan) throw notFound('That scan');
    return scan;
  };

  router.post('/scans', async (request, response) => {
    const { name } = validated(artworkQuery, request.query);
    const incoming = paths.freshIncoming('scan');
    if (!(await receiveUpload(request, incoming, MAX_SCAN_BYTES))) return void response.end();
    const added = await scans.add(incoming, name);
    if (!added.ok) throw unusable(added.reason);
    response.status(201).json(scans.view(scanOf(added.value)));
  });

  router.get('/scans/:id', (request, response) => {
    response.json(scans.view(scanOf(idOf(request))));
  });

  router.get('/scans/:id/picture', async (request, response) => {
    const scan = scanOf(idOf(request));
    const { page, small } = validated(scanPageQuery, request.query);
    response.set('Cache-Control', KEEP_FOREVER);
    if (small !== undefined) {
      const picture = await scans.thumbnail(scan, page, small);
      if (!picture.ok) throw unusable(picture.reason);
      response.type('png').send(picture.value);
      return;
    }
    const file = await scans.pictureFile(scan, page);
    if (!file.ok) throw unusable(file.reason);
    response.sendFile(file.value, { dotfiles: 'allow' });
  });

  router.post('/scans/:id/lift', async (request, response) => {
    const scan = scanOf(idOf(request));
    const wish = validated(liftBody, request.body);
    if (wish.markId !== null && !tables.marks.get(wish.markId)) throw notFound('That mark');
    const kept = await lifts.keep(scan, wish);
    if (!kept.ok) throw unusable(kept.reason);
    const mark = tables.marks.get(kept.value);
    if (!mark) throw notFound('That mark');
    response.status(201).json(marks.view(mark));
  });

  return router;
}
