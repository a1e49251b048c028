import { Router } from 'express';
import { deliveryBody, type DeliveryWish } from '#core/contract/http';
import type { DeliveryRow } from '../db/deliveries.ts';
import { notFound, unusable } from '../http/errors.ts';
import { validated } from '../http/validated.ts';
import { idOf, type RouteParts } from './parts.ts';

export function deliveryRoutes({ tables, allowed }: RouteParts): Router {
  const router = Router();

  const deliveryOf = (id: number): DeliveryRow => {
    const delivery = tables.deliveries.get(id);
    if (!delivery) throw notFound('That delivery');
    return delivery;
  };

  const usable = (body: unknown): DeliveryWish => {
    const wish = validated(deliveryBody, body);
    if (wish.presetId !== null && !tables.presets.get(wish.presetId)) {
      throw unusable('The preset of this delivery is not there any more.');
    }
    if (wish.folder === null) return wish;
    const folder = allowed.resolve(wish.folder);
    if (!folder.ok) throw unusable(folder.reason);
    return { ...wish, folder: folder.value };
  };

  router.get('/deliveries', (_request, response) => {
    response.json(tables.deliveries.all());
  });

  router.post('/deliveries', (request, response) => {
    response.status(201).json(deliveryOf(tables.deliveries.insert(usable(request.body))));
  });

  router.put('/deliveries/:id', (request, response) => {
    const { id } = deliveryOf(idOf(request));
    tables.deliveries.update(id, usable(request.body));
    response.json(deliveryOf(id));
  });

  router.delete('/deliveries/:id', (request, response) => {
    tables.deliveries.remove(deliveryOf(idOf(request)).id);
    response.status(204).end();
  });

  return router;
}
