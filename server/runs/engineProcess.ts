import pLimit from 'p-limit';
import type { Result } from '#core/result';
import { messageOf } from '../imaging/imageErrors.ts';
import { judgeProxy } from '../imaging/judgePhoto.ts';
import { photosAtOnce, wholePhotosAtOnce } from '../imaging/limits.ts';
import { photoRegion } from '../imaging/photoRegion.ts';
import { loadArtwork } from '../imaging/raster/loadArtwork.ts';
import { Rasteriser } from '../imaging/raster/rasteriser.ts';
import { renderPhoto } from '../imaging/renderPhoto.ts';
import type { EngineAnswer, EngineMark, EngineRequest } from './engine.ts';

/**
 * The process that makes outputs, measures readability and shows photos closely. That keeps it busy,
 * while the server next door stays free to answer. It ends with the server that started it.
 */
const rasteriser = new Rasteriser();
const wholePhotos = pLimit(wholePhotosAtOnce());
const proxies = pLimit(photosAtOnce());

process.on('message', (request: EngineRequest) => {
  Promise.resolve()
    .then(() => answer(request))
    .catch((error: unknown) => ({
      ok: false as const,
      reason: `The photo could not be worked on (${messageOf(error)}).`,
    }))
    .then((result) => process.send?.({ id: request.id, result } satisfies EngineAnswer));
});

function answer(request: EngineRequest): Promise<Result<unknown>> {
  switch (request.do) {
    case 'render':
      return renderPhoto(request.job, source(request.mark), rasteriser, wholePhotos);
    case 'judge': {
      const { proxy, subject } = request.job;
      return proxies(() => judgeProxy(proxy, subject, source(request.mark), rasteriser));
    }
    case 'look':
      return photoRegion(request.job, request.mark && source(request.mark), rasteriser);
    default:
      throw new Error(`Unknown task ${request satisfies never}`);
  }
}

function source(mark: EngineMark) {
  return 'key' in mark ? mark : loadArtwork(mark);
}

process.on('disconnect', () => {
  rasteriser.close();
  process.exit(0);
});
