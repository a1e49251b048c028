import { rm } from 'node:fs/promises';
import { ZipArchive } from 'archiver';
import { format } from 'date-fns';
import { Router } from 'express';
import { bundleParams, bundleQuery, takeBundleBody } from '#core/contract/http';
import { packBundle } from '../bundle/packBundle.ts';
import { MAX_BUNDLE_BYTES } from '../bundle/readBundle.ts';
import { TAB_HEADER } from '../http/tellChanges.ts';
import { unusable } from '../http/errors.ts';
import { receiveUpload } from '../http/receiveUpload.ts';
import { validated } from '../http/validated.ts';
import type { RouteParts } from './parts.ts';

/** Chosen marks, presets and deliveries as one file, and taken in from one. */
export function bundleRoutes(parts: RouteParts): Router {
  const { bundles, paths, events, log } = parts;
  const router = Router();

  router.get('/bundle', async (request, response) => {
    const packed = await packBundle(validated(bundleQuery, request.query), parts);
    if (!packed.ok) throw unusable(packed.reason);
    response.attachment(`Light Crest ${format(new Date(), 'yyyy-MM-dd')}.crest.zip`).type('zip');
    const zip = new ZipArchive({ store: false });
    zip.on('error', (error: Error) => {
      log.error({ err: error }, 'a bundle ended early');
      response.destroy(error);
    });
    response.on('close', () => zip.destroy());
    zip.pipe(response);
    for (const [name, content] of packed.value) zip.append(content, { name });
    await zip.finalize();
  });

  router.post('/bundles', async (request, response) => {
    const path = paths.freshIncoming('bundle');
    try {
      if ((await receiveUpload(request, path, MAX_BUNDLE_BYTES)) === null) {
        response.end();
        return;
      }
      const looked = await bundles.look(path);
      if (!looked.ok) throw unusable(looked.reason);
      response.json(looked.value);
    } finally {
      await rm(path, { force: true });
    }
  });

  router.post('/bundles/:key', async (request, response) => {
    const { key } = validated(bundleParams, request.params);
    const taken = await bundles.take(key, validated(takeBundleBody, request.body));
    const tab = request.get(TAB_HEADER) ?? null;
    for (const what of ['marks', 'presets', 'deliveries'] as const) {
      events.send('changed', { what, id: null, tab });
    }
    response.json(taken);
  });

  return router;
}
