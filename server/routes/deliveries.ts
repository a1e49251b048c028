import { Router, type Request } from 'express';
import { deliveryRuleSchema } from '#core/contract/delivery';
import {
  deliveryBody,
  versionParams,
  type DeliveryWish,
  type EarlierDelivery,
  type EarlierVersion,
} from '#core/contract/http';
import type { DeliveryRow } from '../db/deliveries.ts';
import type { EarlierRow } from '../db/earlierVersions.ts';
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
    const presetIds = wish.presetId === null ? [] : [wish.presetId, ...wish.overIds];
    if (presetIds.some((id) => !tables.presets.get(id))) {
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

  /** What it said before is kept. */
  const changed = (request: Request, delivery: DeliveryRow, wish: DeliveryWish): DeliveryRow => {
    const { id, version, updatedAt: madeAt, name, presetId, overIds, rule, folder } = delivery;
    const value: EarlierDelivery = { name, presetId, overIds, rule, folder };
    tables.together(() => {
      tables.earlier.keep('delivery', id, { version, madeAt, value: JSON.stringify(value) });
      tables.deliveries.update(id, wish);
    });
    const now = deliveryOf(id);
    versions.note(request, { what: 'deliveries', ...now });
    return now;
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
    response.json(changed(request, delivery, wish));
  });

  router.get('/deliveries/:id/versions', (request, response) => {
    response.json(tables.earlier.of('delivery', deliveryOf(idOf(request)).id).map(earlierDelivery));
  });

  router.post('/deliveries/:id/versions/:version', async (request, response) => {
    const { id, version } = validated(versionParams, request.params);
    const before = tables.earlier.of('delivery', id).find((row) => row.version === version);
    if (!before) throw unusable('That version is not kept any more.');
    const delivery = deliveryOf(id);
    const { favourite, subfolder, zip } = delivery;
    const wish = await usable({ ...earlierDelivery(before).value, favourite, subfolder, zip });
    response.json(changed(request, delivery, wish));
  });

  router.delete('/deliveries/:id', (request, response) => {
    const { id, name } = deliveryOf(idOf(request));
    const [batch] = tables.runs.underWayWith('delivery', id);
    if (batch !== undefined) {
      throw conflict(
        `A run of ${batch} still goes by ${name}. Wait for its end, or cancel it first.`,
      );
    }
    const [inbox] = tables.inboxes.namesUsing('delivery', id);
    if (inbox !== undefined) {
      throw conflict(`The watched folder ${inbox} goes out by ${name}. Give it another first.`);
    }
    tables.bin.put('deliveries', id);
    response.status(204).end();
  });

  return router;
}

/** Parsed by the schema, so that a field added later has its default in old ones. */
function earlierDelivery({ version, madeAt, value }: EarlierRow): EarlierVersion<EarlierDelivery> {
  const kept = {
    overIds: [],
    ...(JSON.parse(value) as Partial<EarlierDelivery>),
  } as EarlierDelivery;
  return { version, madeAt, value: { ...kept, rule: deliveryRuleSchema.parse(kept.rule) } };
}
