import { format } from 'date-fns';
import { Router } from 'express';
import { sendBackup } from '../backup/writeBackup.ts';
import type { RouteParts } from './parts.ts';

/** The whole data as one file, made while it is taken. */
export function backupRoutes({ config, paths, log }: RouteParts): Router {
  const router = Router();

  router.get('/backup', async (_, response) => {
    response.attachment(`Light Crest ${format(new Date(), 'yyyy-MM-dd')}.zip`).type('zip');
    try {
      await sendBackup(config.dataFolder, paths.freshIncoming('backup'), response);
    } catch (error) {
      // Whoever takes it sees that it is cut short: half of it must not look like a backup.
      log.error({ err: error }, 'a backup ended early');
      response.destroy(error as Error);
    }
  });

  return router;
}
