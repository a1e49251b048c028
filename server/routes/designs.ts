import express, { Router } from 'express';
import {
  artworkQuery,
  designBody,
  designPictureBody,
  finishSetBody,
  newDesignBody,
} from '#core/contract/http';
import { changedMeanwhile, unusable } from '../http/errors.ts';
import { sendMade } from '../http/onlyOnce.ts';
import { CHANGED_MEANWHILE } from '../newArtwork.ts';
import { validated } from '../http/validated.ts';
import { MAX_ARTWORK_BYTES } from '../imaging/limits.ts';
import { toneOf } from './marks.ts';
import { marksOf } from './marksOf.ts';
import { idOf, type RouteParts } from './parts.ts';

/** A drawing by pen has a few hundred kilobytes; a mark may hold several. */
const MAX_DESIGN_BYTES = 12_000_000;

/** The designer: marks as layers, artwork for layers, pictures of what is being made, finishes. */
export function designRoutes(parts: RouteParts): Router {
  const { tables, marks, designs, versions } = parts;
  const { markOf, drawableMark } = marksOf(parts);
  const router = Router();
  const designJson = express.json({ limit: MAX_DESIGN_BYTES, type: () => true });

  router.get('/marks/:id/design', async (request, response) => {
    const mark = await drawableMark(idOf(request));
    const opened = await designs.open(mark);
    if (!opened.ok) throw unusable(opened.reason);
    response.json({ ...opened.value, version: mark.version });
  });

  router.put('/marks/:id/design', designJson, async (request, response) => {
    const mark = markOf(idOf(request));
    const { design, baseVersion } = validated(designBody, request.body);
    versions.check(request, { what: 'marks', ...mark }, baseVersion);
    const saved = await designs.save(mark, design);
    if (!saved.ok && saved.reason === CHANGED_MEANWHILE)
      throw changedMeanwhile(mark.name, markOf(mark.id).version);
    if (!saved.ok) throw unusable(saved.reason);
    versions.note(request, { what: 'marks', ...mark, version: mark.version + 1 });
    response.json(marks.view(markOf(mark.id)));
  });

  router.post('/designs', designJson, async (request, response) => {
    const { name, design } = validated(newDesignBody, request.body);
    const added = await designs.add(design, name);
    if (!added.ok) throw unusable(added.reason);
    response.status(201).json(marks.view(markOf(added.value)));
  });

  router.post('/designs/picture', designJson, async (request, response) => {
    const { design, tone, words, scale } = validated(designPictureBody, request.body);
    const picture = await designs.picture(design, { tone: toneOf(tone), words }, scale);
    if (!picture.ok) throw unusable(picture.reason);
    response.type('png').send(picture.value);
  });

  /** Artwork for a layer; a mark's own file gives all its layers. */
  const artworkBytes = express.raw({ type: () => true, limit: MAX_ARTWORK_BYTES });
  router.post('/parts', artworkBytes, async (request, response) => {
    const { name } = validated(artworkQuery, request.query);
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    const added = await designs.addPart(bytes, name);
    if (!added.ok) throw unusable(`${name}: ${added.reason}`);
    response.status(201).json(added.value);
  });

  router.get('/finish-sets', (_request, response) => {
    response.json(tables.finishSets.all());
  });

  router.post('/finish-sets', (request, response) => {
    const { name, finishes } = validated(finishSetBody, request.body);
    sendMade(response, tables, () => {
      tables.finishSets.put(name, finishes);
      return tables.finishSets.all();
    });
  });

  router.delete('/finish-sets/:id', (request, response) => {
    tables.finishSets.remove(idOf(request));
    response.json(tables.finishSets.all());
  });

  return router;
}
