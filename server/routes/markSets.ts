import { Router } from 'express';
import { markSetBody } from '#core/contract/http';
import { notFound, unusable } from '../http/errors.ts';
import { sendMade } from '../http/onlyOnce.ts';
import { validated } from '../http/validated.ts';
import { idOf, type RouteParts } from './parts.ts';

/** Presets that are laid over each other, under one name. */
export function markSetRoutes({ tables }: RouteParts): Router {
  const router = Router();

  router.get('/sets', (_, response) => {
    response.json(tables.markSets.all());
  });

  router.post('/sets', (request, response) => {
    const { name, presetIds } = validated(markSetBody, request.body);
    if (presetIds.some((id) => !tables.presets.get(id))) {
      throw unusable('A preset of this set is not there any more.');
    }
    sendMade(response, tables, () => tables.markSets.get(tables.markSets.insert(name, presetIds)));
  });

  router.delete('/sets/:id', (request, response) => {
    const id = idOf(request);
    if (!tables.markSets.get(id)) throw notFound('That set');
    tables.markSets.remove(id);
    response.status(204).end();
  });

  return router;
}
