import { readFile } from 'node:fs/promises';
import express, { Router } from 'express';
import {
  artworkQuery,
  boxBody,
  downloadQuery,
  frameQuery,
  markChangeBody,
  pageArtworkBody,
  penBody,
  rasterQuery,
  shapesBody,
  versionParams,
} from '#core/contract/http';
import { bleedOf } from '#core/compose/rasterPlan';
import type { EarlierMark, EarlierVersion, MarkShapeView, MarkView } from '#core/contract/http';
import { DEFAULT_RULE, type ToneChoice } from '#core/contract/preset';
import { safeName } from '#core/delivery/namePattern';
import type { Result } from '#core/result';
import { setImmediate } from 'node:timers/promises';
import { exampleWordsNow } from '../lettering/examples.ts';
import { shapeOf } from '../imaging/raster/artwork.ts';
import { loadArtwork } from '../imaging/raster/loadArtwork.ts';
import { namedWords } from '../wordsOfMark.ts';
import { removableMark } from '../markViews.ts';
import { artworkOrigin } from '../newArtwork.ts';
import { conflict, notFound, unusable } from '../http/errors.ts';
import { validated } from '../http/validated.ts';
import { MAX_ARTWORK_BYTES } from '../imaging/limits.ts';
import { marksOf } from './marksOf.ts';
import { idOf, KEEP_FOREVER, type RouteParts } from './parts.ts';

/** The library of marks and their pictures. */
export function markRoutes(parts: RouteParts): Router {
  const { tables, marks, pictures, scans } = parts;
  const { markOf, drawableMark, atVersion } = marksOf(parts);
  const router = Router();

  router.get('/marks', (_request, response) => {
    response.json(marks.list());
  });

  /** The mark after something was done to it, or the reason why it could not be done. */
  const done = (result: Result<number>, about: string): MarkView => {
    if (!result.ok) throw unusable(about ? `${about}: ${result.reason}` : result.reason);
    return marks.view(markOf(result.value));
  };

  const artworkBytes = express.raw({ type: () => true, limit: MAX_ARTWORK_BYTES });
  const bytesOf = (body: unknown): Buffer => (Buffer.isBuffer(body) ? body : Buffer.alloc(0));

  router.post('/marks', artworkBytes, async (request, response) => {
    const { name } = validated(artworkQuery, request.query);
    response.status(201).json(done(await marks.add(bytesOf(request.body), name), name));
  });

  router.post('/marks/from-page', async (request, response) => {
    const { scanId, page } = validated(pageArtworkBody, request.body);
    const scan = tables.scans.get(scanId);
    if (!scan) throw notFound('That PDF');
    const bytes = await readFile(scans.file(scan));
    response.status(201).json(done(await marks.add(bytes, scan.name, null, page), scan.name));
  });

  router.post('/marks/pen', async (request, response) => {
    const { drawing, name, markId } = validated(penBody, request.body);
    if (markId !== null) markOf(markId);
    response.status(201).json(done(await marks.addDrawing(drawing, name, markId), ''));
  });

  router.post('/marks/:id/artwork', artworkBytes, async (request, response) => {
    const mark = markOf(idOf(request));
    const { name } = validated(artworkQuery, request.query);
    response.json(done(await marks.add(bytesOf(request.body), name, mark.id), name));
  });

  router.post('/marks/:id/box', async (request, response) => {
    const { take } = validated(boxBody, request.body);
    response.json(done(await marks.decideBox(markOf(idOf(request)), take), ''));
  });

  router.post('/marks/:id/duplicate', async (request, response) => {
    const id = await marks.duplicate(await drawableMark(idOf(request)));
    response.status(201).json(marks.view(markOf(id)));
  });

  /** How it was made: the settings of a lift, the strokes of a pen. */
  router.get('/marks/:id/origin', (request, response) => {
    response.json(artworkOrigin(markOf(idOf(request)).origin));
  });

  router.get('/marks/:id/download', async (request, response) => {
    const mark = await drawableMark(idOf(request));
    const { type, tone, width } = validated(downloadQuery, request.query);
    const showing = { tone: toneOf(tone), words: exampleWordsNow() };
    const suffix = tone === 'original' ? '' : `, ${tone}`;
    response.attachment(`${safeName(mark.name)}${suffix}.${type}`);
    if (type === 'svg') {
      const svg = await pictures.svg(mark, showing);
      if (!svg.ok) throw unusable(svg.reason);
      response.type('image/svg+xml').send(svg.value);
      return;
    }
    const picture = await pictures.picture(mark, showing, width, 'whole');
    if (!picture.ok) throw unusable(picture.reason);
    response.type('png').send(picture.value);
  });

  router.get('/marks/:id/frame', async (request, response) => {
    const mark = await drawableMark(idOf(request));
    const {
      width,
      height,
      preset: presetId,
      tone,
      download,
    } = validated(frameQuery, request.query);
    const preset = presetId === undefined ? null : tables.presets.get(presetId);
    if (presetId !== undefined && !preset) throw notFound('That preset');
    const rule = preset?.rule ?? DEFAULT_RULE;
    const wish = {
      ...{ frame: { width, height }, rule, words: exampleWordsNow() },
      tone: tone === undefined ? null : toneOf(tone),
    };
    const picture = await pictures.frame(mark, wish);
    if (!picture.ok) throw unusable(picture.reason);
    if (download) response.attachment(`${safeName(mark.name)}, ${width} × ${height}.png`);
    response.type('png').send(picture.value);
  });

  router.get('/marks/:id/versions', (request, response) => {
    const { id, version } = markOf(idOf(request));
    const earlier = tables.marks
      .earlier(id, version)
      .map(({ madeAt, version: before, ink, natural }): EarlierVersion<EarlierMark> => ({
        ...{ version: before, madeAt, value: { ink, bleed: bleedOf(ink, natural) } },
      }));
    response.json(earlier);
  });

  router.post('/marks/:id/versions/:version', async (request, response) => {
    const { id, version } = validated(versionParams, request.params);
    response.json(done(await marks.takeBack(await drawableMark(id), version), ''));
  });

  router.patch('/marks/:id', (request, response) => {
    const mark = markOf(idOf(request));
    const { name, retired } = validated(markChangeBody, request.body);
    tables.together(() => {
      if (name !== undefined) tables.marks.rename(mark.id, name);
      if (retired !== undefined) tables.marks.retire(mark.id, retired);
    });
    response.json(marks.view(markOf(mark.id)));
  });

  router.delete('/marks/:id', (request, response) => {
    const mark = markOf(idOf(request));
    const removable = removableMark(mark, tables);
    if (!removable.ok) throw conflict(removable.reason);
    tables.bin.put('marks', mark.id);
    response.status(204).end();
  });

  router.get('/marks/:id/raster', async (request, response) => {
    const query = validated(rasterQuery, request.query);
    const { tone, width } = query;
    const mark = await atVersion(idOf(request), query.version);
    const showing = { tone: toneOf(tone), words: namedWords(mark, query.words) };
    const picture = await pictures.keptPicture(mark, showing, width);
    if (!picture.ok) throw unusable(picture.reason);
    response.set('Cache-Control', KEEP_FOREVER).type('png').send(picture.value);
  });

  /** The shapes that a mark has with words of photos. */
  router.post('/marks/:id/shapes', async (request, response) => {
    const { version, words } = validated(shapesBody, request.body);
    const mark = await atVersion(idOf(request), version);
    const { artwork } = loadArtwork(marks.artworkFile(mark, version));
    const shapes: MarkShapeView[] = [];
    for (const named of words) {
      // Each is set by hand of the processor: others are answered in between.
      await setImmediate();
      const { ink, bleed } = shapeOf(artwork, namedWords(mark, named));
      shapes.push({ ink, bleed });
    }
    response.json(shapes);
  });

  return router;
}

/** A tone as addresses write it. */
export function toneOf(tone: string): ToneChoice {
  return tone === 'light' || tone === 'dark' || tone === 'original' ? tone : `#${tone}`;
}
