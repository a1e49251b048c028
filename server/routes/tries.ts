import { Router, type Request } from 'express';
import { tryBody, tryParams } from '#core/contract/http';
import { unusable } from '../http/errors.ts';
import { validated } from '../http/validated.ts';
import { idOf, type RouteParts } from './parts.ts';

/** Deliveries tried on one photo. */
export function tryRoutes({ tries, imaging }: RouteParts): Router {
  const router = Router();

  router.post('/deliveries/:id/try', async (request, response) => {
    const { photoId } = validated(tryBody, request.body);
    response.json(await tries.make(idOf(request), photoId));
  });

  router.get('/tries/:key/after', async (request, response) => {
    const { path, type } = triedOf(request);
    response.set('Cache-Control', 'private, no-cache');
    if (type === 'tiff') {
      // Browsers show none.
      const jpeg = await imaging.outputAsJpeg(path);
      if (!jpeg.ok) throw unusable(jpeg.reason);
      response.type('jpeg').send(Buffer.from(jpeg.value));
      return;
    }
    response.type(type).sendFile(path, { dotfiles: 'allow' });
  });

  /** The photo in the size of the file, without the mark. */
  router.get('/tries/:key/before', async (request, response) => {
    const { source, frame } = triedOf(request);
    const jpeg = await imaging.sourceAsJpeg(source, frame);
    if (!jpeg.ok) throw unusable(jpeg.reason);
    response.set('Cache-Control', 'private, no-cache').type('jpeg').send(Buffer.from(jpeg.value));
  });

  const triedOf = (request: Request) =>
    tries.get(validated(tryParams, { key: request.params.key }).key);

  return router;
}
