import { Router } from 'express';
import { unusable } from '../http/errors.ts';
import type { RouteParts } from './parts.ts';

/** Examples to try everything with. */
export function exampleRoutes({ examples, batches, events }: RouteParts): Router {
  const router = Router();

  const tellAll = (): void => {
    for (const what of ['marks', 'presets', 'batches'] as const) {
      events.send('changed', { what, id: null, tab: null });
    }
  };

  router.get('/examples', (_request, response) => {
    response.json(examples.view());
  });

  router.post('/examples', async (_request, response) => {
    const laid = await examples.lay();
    if (!laid.ok) throw unusable(laid.reason);
    tellAll();
    response.status(201).json(examples.view());
  });

  router.delete('/examples', async (_request, response) => {
    const gone = await examples.takeAway((id) => batches.remove(id));
    if (!gone.ok) throw unusable(gone.reason);
    tellAll();
    response.status(204).end();
  });

  return router;
}
