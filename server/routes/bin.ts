import { Router } from 'express';
import { binParams } from '#core/contract/http';
import { unusable } from '../http/errors.ts';
import { validated } from '../http/validated.ts';
import type { RouteParts } from './parts.ts';

/** What was deleted: to look through, to put back, to do away with. */
export function binRoutes({ bin }: RouteParts): Router {
  const router = Router();

  router.get('/bin', (_request, response) => {
    response.json(bin.list());
  });

  router.post('/bin/:kind/:id/put-back', (request, response) => {
    const { kind, id } = validated(binParams, request.params);
    const back = bin.putBack(kind, id);
    if (!back.ok) throw unusable(back.reason);
    response.json(bin.list());
  });

  router.delete('/bin/:kind/:id', async (request, response) => {
    const { kind, id } = validated(binParams, request.params);
    const gone = await bin.remove(kind, id);
    if (!gone.ok) throw unusable(gone.reason);
    response.json(bin.list());
  });

  router.delete('/bin', async (_request, response) => {
    await bin.empty();
    response.json(bin.list());
  });

  return router;
}
