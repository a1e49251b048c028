import { Router } from 'express';
import { deliveryBody, type DeliveryWish } from '#core/contract/http';
import type { DeliveryRow } from '../db/deliveries.ts';
import { conflict, notFound, unusable } from '../http/errors.ts';
import { sendMade } from '../http/onlyOnce.ts';
import { validated } from '../http/validated.ts';
import { isWithin } from '../storage/allowedFolders.ts';
import { idOf, type RouteParts } from './parts.ts';

export function deliveryRoutes(parts: RouteParts): Router {
  const { tables, allowed, paths, config, versions } = parts;
  const router = Router();

  const deliveryOf = (id: number): DeliveryRow => {
    const delivery = tables.deliveries.get(id);
    if (!delivery) throw notFound('That delivery');
    return delivery;
  };

  const usable = async (body: unknown): Promise<DeliveryWish> => {
    const wish = validated(deliveryBody, body);
    if (wish.presetId !== null && !tables.presets.get(wish.presetId)) {
      throw unusable('The preset of this delivery is not there any more.');
    }
    if (wish.folder === null) return wish;
    const folder = await allowed.resolve(wish.folder);
    if (!folder.ok) throw unusable(folder.reason);
    const isOurs = isWithin(config.dataFolder, folder.value);
    if (isOurs && !isWithin(paths.exports, folder.value)) {
      throw unusable(`${wish.folder} holds Light Crest's own data. Choose another folder.`);
    }
    return { ...wish, folder: folder.value };
  };

  router.get('/deliveries', (_request, response) => {
    response.json(tables.deliveries.all());
  });

  router.post('/deliveries', async (request, response) => {
    const wish = await usable(request.body);
    sendMade(response, tables, () => deliveryOf(tables.deliveries.insert(wish)));
  });

  router.put('/deliveries/:id', async (request, response) => {
    const wish = await usable(request.body);
    const delivery = deliveryOf(idOf(request));
    versions.check(request, { what: 'deliveries', ...delivery }, wish.baseVersion);
    tables.deliveries.update(delivery.id, wish);
    const now = deliveryOf(delivery.id);
    versions.note(request, { what: 'deliveries', ...now });
    response.json(now);
  });

  router.delete('/deliveries/:id', (request, response) => {
    const { id, name } = deliveryOf(idOf(request));
    const [batch] = tables.runs.underWayWith('delivery', id);
    if (batch !== undefined) {
      throw conflict(
        `A run of ${batch} still goes by ${name}. Wait for its end, or cancel it first.`,
      );
    }
    tables.deliveries.remove(id);
    response.status(204).end();
  });

  return router;
}
