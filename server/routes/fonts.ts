import express, { Router } from 'express';
import { artworkQuery, fontFaceParams } from '#core/contract/http';
import { notFound, unusable } from '../http/errors.ts';
import { validated } from '../http/validated.ts';
import { faceFile, SHIPPED_FONTS_FOLDER } from '../lettering/fontBook.ts';
import { MAX_FONT_BYTES } from '../lettering/fonts.ts';
import { isWithin } from '../storage/allowedFolders.ts';
import type { RouteParts } from './parts.ts';

/** Fonts that ship stay as they are; one that was added may be added again, so it is asked about. */
const KEEP_A_DAY = 'private, max-age=86400';
const ASK_EACH_TIME = 'private, no-cache';

/** Fonts for lettering. The page shapes its words itself, so it is given the files. */
export function fontRoutes({ fonts, marks }: RouteParts): Router {
  const router = Router();
  const fontBytes = express.raw({ type: () => true, limit: MAX_FONT_BYTES });

  router.get('/fonts', (_request, response) => {
    response.json(fonts.list());
  });

  router.post('/fonts', fontBytes, async (request, response) => {
    const { name } = validated(artworkQuery, request.query);
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    const added = await fonts.add(bytes, name);
    if (!added.ok) throw unusable(`${name}: ${added.reason}`);
    response.status(201).json(added.value);
  });

  router.get('/fonts/:family/:weight/:slant', (request, response) => {
    const { family, weight, slant } = validated(fontFaceParams, request.params);
    const choice = { family, weight, italic: slant === 'italic' };
    const path = faceFile(marks.fontFolders, choice);
    if (path === null) throw notFound('That font');
    const isShipped = isWithin(SHIPPED_FONTS_FOLDER, path);
    response.set('Cache-Control', isShipped ? KEEP_A_DAY : ASK_EACH_TIME).type('font/ttf');
    response.sendFile(path, { dotfiles: 'allow' });
  });

  router.delete('/fonts/:family', async (request, response) => {
    await fonts.remove(request.params.family);
    response.json(fonts.list());
  });

  return router;
}
