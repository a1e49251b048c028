import pLimit from 'p-limit';
import { messageOf } from '../imaging/imageErrors.ts';
import { wholePhotosAtOnce } from '../imaging/limits.ts';
import { loadArtwork } from '../imaging/raster/loadArtwork.ts';
import { Rasteriser } from '../imaging/raster/rasteriser.ts';
import { renderPhoto } from '../imaging/renderPhoto.ts';
import type { EngineAnswer, EngineRequest } from './engine.ts';

/**
 * The process that makes outputs. Blending and encoding keep it busy, while the server next door
 * stays free to answer. It ends with the server that started it.
 */
const rasteriser = new Rasteriser();
const wholePhotos = pLimit(wholePhotosAtOnce());

process.on('message', ({ id, job, mark }: EngineRequest) => {
  Promise.resolve()
    .then(() => renderPhoto(job, 'key' in mark ? mark : loadArtwork(mark), rasteriser, wholePhotos))
    .catch((error: unknown) => ({
      ok: false as const,
      reason: `The output could not be made (${messageOf(error)}).`,
    }))
    .then((result) => process.send?.({ id, result } satisfies EngineAnswer));
});

process.on('disconnect', () => {
  rasteriser.close();
  process.exit(0);
});
