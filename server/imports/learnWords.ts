import type { Logger } from 'pino';
import type { Tables } from '../db/tables.ts';
import type { Imaging } from '../imaging/pool/imaging.ts';

interface WordsHouse {
  readonly tables: Tables;
  readonly imaging: Imaging;
  readonly log: Logger;
  readonly isClosed: () => boolean;
  /** The photos of a batch have changed. */
  readonly tell: (batchId: number) => void;
}

/**
 * Reads what marks may say of photos that were taken in before that was kept, in the background. Those whose
 * files are away are tried at the next start.
 */
export async function learnWords(house: WordsHouse): Promise<void> {
  const { tables, imaging, log, isClosed, tell } = house;
  const batches = new Set<number>();
  for (const { id, batchId, path } of tables.photos.wordless()) {
    const described = await imaging.describe(path);
    if (isClosed()) return;
    if (!described.ok) continue;
    try {
      tables.photos.setWords(id, described.value);
      batches.add(batchId);
    } catch (error) {
      log.warn({ err: error, photo: id }, 'the words of a photo could not be noted');
    }
  }
  batches.forEach(tell);
}
