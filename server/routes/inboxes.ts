import { stat } from 'node:fs/promises';
import { Router } from 'express';
import { inboxBody, type UnreadView } from '#core/contract/http';
import type { InboxFields, InboxRow } from '../db/inboxes.ts';
import { notFound, unusable } from '../http/errors.ts';
import { sendMade } from '../http/onlyOnce.ts';
import { validated } from '../http/validated.ts';
import { isWithin } from '../storage/allowedFolders.ts';
import { idOf, type RouteParts } from './parts.ts';

/** Folders that are watched. */
export function inboxRoutes({ tables, inboxes, allowed, config, log }: RouteParts): Router {
  const router = Router();

  const inboxOf = (id: number): InboxRow => {
    const inbox = tables.inboxes.get(id);
    if (!inbox) throw notFound('That watched folder');
    return inbox;
  };

  /** @param id 0: of one that is to be made */
  const usable = async (body: unknown, id: number): Promise<InboxFields> => {
    const wish = validated(inboxBody, body);
    for (const preset of wish.presetIds) {
      if (!tables.presets.get(preset)) throw unusable('One of its presets is not there any more.');
    }
    for (const delivery of wish.deliveryIds) {
      if (!tables.deliveries.get(delivery)) throw notFound('One of its deliveries');
    }
    const folder = await allowed.resolve(wish.folder);
    if (!folder.ok) throw unusable(folder.reason);
    if (isWithin(config.dataFolder, folder.value)) {
      throw unusable(`${wish.folder} holds Light Crest's own data. Choose another folder.`);
    }
    const isFolder = (await stat(folder.value).catch(() => null))?.isDirectory() ?? false;
    if (!isFolder) throw unusable(`${wish.folder} is not there, or is no folder.`);
    const aside = wish.aside === null ? null : await allowed.resolve(wish.aside);
    if (aside && !aside.ok) throw unusable(aside.reason);
    const fields = { ...wish, folder: folder.value, aside: aside?.value ?? null };
    const problem = inboxes.problemOf({ ...fields, id });
    if (problem !== null) throw unusable(problem);
    return fields;
  };

  router.get('/inboxes', (_, response) => {
    response.json(tables.inboxes.all().map((inbox) => inboxes.view(inbox)));
  });

  router.post('/inboxes', async (request, response) => {
    const fields = await usable(request.body, 0);
    sendMade(response, tables, () => {
      const id = tables.inboxes.insert(fields);
      // Once it is kept.
      setImmediate(() => {
        inboxes.changed(id).catch((error: unknown) => {
          log.error({ err: error, inbox: id }, 'an inbox waits for the next start');
        });
      });
      return inboxes.view(inboxOf(id));
    });
  });

  router.put('/inboxes/:id', async (request, response) => {
    const { id } = inboxOf(idOf(request));
    const fields = await usable(request.body, id);
    tables.inboxes.update(id, fields);
    await inboxes.changed(id);
    response.json(inboxes.view(inboxOf(id)));
  });

  /** The folder and its runs stay as they are. */
  router.delete('/inboxes/:id', async (request, response) => {
    const { id } = inboxOf(idOf(request));
    tables.inboxes.remove(id);
    await inboxes.changed(id);
    response.status(204).end();
  });

  router.get('/inboxes/:id/unread', (request, response) => {
    const unread = tables.inboxes.unread(inboxOf(idOf(request)).id);
    response.json(unread.map(({ name, problem }): UnreadView => ({ name, reason: problem ?? '' })));
  });

  return router;
}
