import { Router } from 'express';
import type { RouteParts } from './parts.ts';

/** Workers that help: null where this server hands nothing out. */
export function workerRoutes({ crew }: RouteParts): Router {
  const router = Router();
  router.get('/workers', (_, response) => {
    response.json(crew?.view() ?? null);
  });
  return router;
}
