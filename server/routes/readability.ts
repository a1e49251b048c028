import { Router } from 'express';
import {
  inkQuery,
  lightMapsBody,
  readingsBody,
  regionBody,
  rescueQuery,
  type InkView,
} from '#core/contract/readability';
import { resizeFrame } from '#core/delivery/resizeFrame';
import { placeMark } from '#core/placement/placeMark';
import { packedLightMaps } from '#core/readability/lightMap';
import { notFound, unusable } from '../http/errors.ts';
import { validated } from '../http/validated.ts';
import { inkFacts } from '../imaging/inkFacts.ts';
import { shapeOf } from '../imaging/raster/artwork.ts';
import type { PlacedMark } from '../imaging/pool/imagingTasks.ts';
import { loadArtwork, type ArtworkFile } from '../imaging/raster/loadArtwork.ts';
import { isWithin } from '../storage/allowedFolders.ts';
import { namedWords, wordsOfPhoto } from '../wordsOfMark.ts';
import { marksOf } from './marksOf.ts';
import { idOf, KEEP_FOREVER, type RouteParts } from './parts.ts';

/** Can the mark be read there: measures, what estimates need, and photos seen closely. */
export function readabilityRoutes(parts: RouteParts): Router {
  const { tables, marks, pictures, readings, rasteriser, imaging, allowed, paths } = parts;
  const { drawableMark, atVersion } = marksOf(parts);
  const router = Router();

  router.post('/readings', async (request, response) => {
    const { resize, photos } = validated(readingsBody, request.body);
    const found = await Promise.all(photos.map((photo) => readings.of(photo, resize)));
    response.json(found.filter((reading) => reading !== null));
  });

  /** For many photos at once, in one piece of bytes. */
  router.post('/light-maps', (request, response) => {
    const { ids } = validated(lightMapsBody, request.body);
    const maps = ids.map((id) => ({ id, map: tables.photos.lightMap(id) }));
    const found = maps.flatMap(({ id, map }) => (map ? [{ id, map }] : []));
    response.type('application/octet-stream').send(Buffer.from(packedLightMaps(found)));
  });

  router.get('/marks/:id/ink', async (request, response) => {
    const { words, version } = validated(inkQuery, request.query);
    const mark = await atVersion(idOf(request), version);
    const facts = await inkFacts(
      loadArtwork(marks.artworkFile(mark)),
      namedWords(mark, words),
      rasteriser,
    );
    if (!facts.ok) throw unusable(facts.reason);
    const { points, colour } = facts.value;
    const view: InkView = { values: [...points.values], colour };
    response.set('Cache-Control', KEEP_FOREVER).json(view);
  });

  router.get('/marks/:id/rescue', async (request, response) => {
    const query = validated(rescueQuery, request.query);
    const { kind, colour, width } = query;
    const mark = await atVersion(idOf(request), query.version);
    const rescue = { kind, colour: `#${colour}` };
    const picture = await pictures.rescue(mark, rescue, namedWords(mark, query.words), width);
    if (!picture.ok) throw unusable(picture.reason);
    response.set('Cache-Control', KEEP_FOREVER).type('png').send(picture.value);
  });

  /** Part of an output, in its own pixels, by what makes it. */
  router.post('/photos/:id/region', async (request, response) => {
    const photo = tables.photos.get(idOf(request));
    if (!photo) throw notFound('That photo');
    const source = isWithin(paths.photos, photo.path)
      ? { ok: true as const, value: photo.path }
      : await allowed.resolve(photo.path);
    if (!source.ok) throw unusable(source.reason);
    const { resize, number, marks: wished, ...region } = validated(regionBody, request.body);
    const frame = resizeFrame(photo, resize);
    const words = wordsOfPhoto(photo, number, tables);
    const files: ArtworkFile[] = [];
    const placed: PlacedMark[] = [];
    for (const [mark, { markId, rule, adjustment, choice }] of wished.entries()) {
      const file = marks.artworkFile(await drawableMark(markId));
      const { aspect } = shapeOf(loadArtwork(file).artwork, words);
      const placement = placeMark(frame, aspect, rule, adjustment, choice);
      if (!placement.ok) throw unusable(placement.reason);
      files.push(file);
      placed.push({ placement: placement.value, mark, words });
    }
    const png = await imaging.look({ source: source.value, frame, region }, placed, files);
    if (!png.ok) throw unusable(png.reason);
    response.type('png').set('Cache-Control', 'no-store').send(Buffer.from(png.value));
  });

  return router;
}
