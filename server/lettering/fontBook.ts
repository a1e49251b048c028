import type { PhotoWords } from '#core/lettering/words';
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import type { FontChoice, Parts } from '#core/contract/design';
import type { DrawContext } from '#core/design/context';
import { Face } from '#core/lettering/face';
import { PROJECT_FOLDER } from '../projectFolder.ts';
import { faceKey, nearestFace, type FontFaceInfo } from '#core/lettering/shippedFonts';

/** Fonts on disk: `<folder>/<family>/<weight>[-italic].ttf`, in every process the same. */

export const SHIPPED_FONTS_FOLDER = join(PROJECT_FOLDER, 'fonts');

const FACE_FILE = /^(\d{1,4})(-italic)?\.ttf$/;
/** A family is a folder's name, never a way out of it. */
const FAMILY = /^[a-z0-9-]+$/;

const faces = new Map<string, Face | null>();

export function facesIn(folder: string, family: string): FontFaceInfo[] {
  if (!FAMILY.test(family)) return [];
  let names: string[];
  try {
    names = readdirSync(join(folder, family));
  } catch {
    return [];
  }
  return names.flatMap((name) => {
    const match = FACE_FILE.exec(name);
    return match ? [{ weight: Number(match[1]), italic: match[2] !== undefined }] : [];
  });
}

/** The file of the face nearest to a choice, or null where no folder has the family. */
export function faceFile(folders: readonly string[], choice: FontChoice): string | null {
  for (const folder of folders) {
    const info = nearestFace(facesIn(folder, choice.family), choice);
    if (info) return join(folder, `${faceKey(choice.family, info)}.ttf`);
  }
  return null;
}

/** Read once a process, and again where the same face was added anew. */
export function faceOf(folders: readonly string[], choice: FontChoice): Face | null {
  const path = faceFile(folders, choice);
  if (path === null) return null;
  const { mtimeMs, size } = statSync(path);
  const key = `${path}|${mtimeMs}|${size}`;
  let face = faces.get(key);
  if (face === undefined) {
    const read = Face.read(readFileSync(path));
    faces.set(key, (face = read.ok ? read.value : null));
  }
  return face;
}

export function drawContext(
  parts: Parts,
  fontFolders: readonly string[],
  words: PhotoWords,
): DrawContext {
  return {
    words,
    part: (key) => parts[key] ?? null,
    face: (choice) => faceOf(fontFolders, choice),
  };
}
