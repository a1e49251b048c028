import { rm } from 'node:fs/promises';
import express, { Router } from 'express';
import { artworkQuery, markChangeBody, rasterQuery } from '#core/contract/http';
import type { ToneChoice } from '#core/contract/preset';
import type { MarkRow } from '../db/marks.ts';
import { conflict, notFound, unusable } from '../http/errors.ts';
import { validated } from '../http/validated.ts';
import { MAX_ARTWORK_BYTES } from '../imaging/limits.ts';
import { idOf, KEEP_FOREVER, type RouteParts } from './parts.ts';

/** The library of marks and their pictures. */
export function markRoutes({ tables, marks, paths }: RouteParts): Router {
  const router = Router();

  const markOf = (id: number): MarkRow => {
    const mark = tables.marks.get(id);
    if (!mark) throw notFound('That mark');
    return mark;
  };

  router.get('/marks', (_request, response) => {
    response.json(marks.list());
  });

  router.post(
    '/marks',
    express.raw({ type: () => true, limit: MAX_ARTWORK_BYTES }),
    async (request, response) => {
      const { name } = validated(artworkQuery, request.query);
      const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
      const added = await marks.add(bytes, name);
      if (!added.ok) throw unusable(`${name}: ${added.reason}`);
      response.status(201).json(marks.view(markOf(added.value)));
    },
  );

  router.patch('/marks/:id', (request, response) => {
    const mark = markOf(idOf(request));
    const { name, retired } = validated(markChangeBody, request.body);
    tables.together(() => {
      if (name !== undefined) tables.marks.rename(mark.id, name);
      if (retired !== undefined) tables.marks.retire(mark.id, retired);
    });
    response.json(marks.view(markOf(mark.id)));
  });

  router.delete('/marks/:id', async (request, response) => {
    const mark = markOf(idOf(request));
    const removable = marks.removable(mark);
    if (!removable.ok) throw conflict(removable.reason);
    tables.marks.remove(mark.id);
    await rm(paths.artwork(mark.id, mark.version, mark.kind), { force: true });
    response.status(204).end();
  });

  router.get('/marks/:id/raster', async (request, response) => {
    const mark = markOf(idOf(request));
    const { tone, width } = validated(rasterQuery, request.query);
    const choice: ToneChoice =
      tone === 'light' || tone === 'dark' || tone === 'original' ? tone : `#${tone}`;
    const picture = await marks.picture(mark, choice, width);
    if (!picture.ok) throw unusable(picture.reason);
    response.set('Cache-Control', KEEP_FOREVER).type('png').send(picture.value);
  });

  return router;
}
