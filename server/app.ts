import { join } from 'node:path';
import express, { type Express } from 'express';
import { pinoHttp } from 'pino-http';
import { errorHandler, unknownRoute } from './http/errors.ts';
import { guard, securityHeaders } from './http/guard.ts';
import { onlyOnce } from './http/onlyOnce.ts';
import { tellChanges } from './http/tellChanges.ts';
import type { House } from './house.ts';
import { backupRoutes } from './routes/backup.ts';
import { batchRoutes } from './routes/batches.ts';
import { binRoutes } from './routes/bin.ts';
import { deliveryRoutes } from './routes/deliveries.ts';
import { designRoutes } from './routes/designs.ts';
import { exampleRoutes } from './routes/examples.ts';
import { fontRoutes } from './routes/fonts.ts';
import { markRoutes } from './routes/marks.ts';
import { markSetRoutes } from './routes/markSets.ts';
import { presetRoutes } from './routes/presets.ts';
import { readabilityRoutes } from './routes/readability.ts';
import { bundleRoutes } from './routes/bundles.ts';
import { inboxRoutes } from './routes/inboxes.ts';
import { outputRoutes } from './routes/outputs.ts';
import { tryRoutes } from './routes/tries.ts';
import { runRoutes } from './routes/runs.ts';
import { scanRoutes } from './routes/scans.ts';
import { settingsRoutes } from './routes/settings.ts';
import { workerRoutes } from './routes/workers.ts';

/** A preset or a delivery is a few hundred bytes; a list of photo ids some hundred kilobytes. */
const MAX_JSON_BYTES = 1_000_000;

/** Where a whole design is sent, which its own routes read. */
const DESIGN_PATH = /^\/(designs|marks\/\d+\/design$)/;

export interface AppOptions {
  /** The port in use, known once the server listens. */
  readonly port: () => number;
  /** Origins besides the server's own, for the development server. */
  readonly extraOrigins?: readonly string[];
}

/** The application without listening, so that tests can call it. */
export function createApp(house: House, options: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(pinoHttp({ logger: house.log, autoLogging: false }));
  app.use(guard(options.port, options.extraOrigins ?? []));
  app.use(securityHeaders());

  const api = express.Router();
  api.get('/events', house.events.listen);
  // Uploads and artwork are read by their own routes, as bytes, and so are designs.
  const json = express.json({ limit: MAX_JSON_BYTES });
  api.use((request, response, next) =>
    DESIGN_PATH.test(request.path) ? next() : json(request, response, next),
  );
  api.use(onlyOnce(house.tables, house.log));
  api.use(tellChanges(house.events));
  for (const routes of [
    settingsRoutes,
    batchRoutes,
    binRoutes,
    markRoutes,
    designRoutes,
    fontRoutes,
    exampleRoutes,
    scanRoutes,
    presetRoutes,
    markSetRoutes,
    deliveryRoutes,
    readabilityRoutes,
    runRoutes,
    outputRoutes,
    backupRoutes,
    inboxRoutes,
    bundleRoutes,
    tryRoutes,
    workerRoutes,
  ]) {
    api.use(routes(house));
  }
  api.use(unknownRoute);
  app.use('/api', api);

  const { pageFolder } = house.config;
  if (pageFolder) {
    app.use(
      express.static(pageFolder, {
        index: false,
        maxAge: '1y',
        immutable: true,
        dotfiles: 'ignore',
      }),
    );
    app.get(/^\/(?!assets\/)/, (_request, response) => {
      response.set('Cache-Control', 'no-cache');
      response.sendFile(join(pageFolder, 'index.html'), { dotfiles: 'allow' });
    });
  }
  app.use(unknownRoute);
  app.use(errorHandler(house.log));
  return app;
}
