import { readdir, readFile, stat } from 'node:fs/promises';
import { basename, dirname, join, resolve } from 'node:path';
import type { z } from 'zod';
import { validate } from '#core/contract/explain';
import { DEFAULT_RULE, presetFileSchema, type PresetRule } from '#core/contract/preset';
import type { Imaging } from '#server/imaging/pool/imaging';
import type { ImportedArtwork } from '#server/imaging/raster/importArtwork';
import type { MarkSource } from '#server/imaging/compose';
import { PHOTO_ENDING } from '#server/imaging/photo/probe';
import { CallError } from './exit.ts';

/** A photo of the call: the path as given, where it is, and the folder that names its batch. */
export interface PhotoInput {
  readonly source: string;
  readonly path: string;
  readonly batch: string;
}

/** Photos as named; folders give the photos that lie in them directly, by name. */
export async function findPhotos(given: readonly string[]): Promise<PhotoInput[]> {
  const found: PhotoInput[] = [];
  for (const source of given) {
    const isFolder = (await stat(source).catch(() => null))?.isDirectory() ?? false;
    if (!isFolder) {
      found.push(photoInput(source));
      continue;
    }
    const names = (await readdir(source)).filter(
      (name) => PHOTO_ENDING.test(name) && !name.startsWith('.'),
    );
    names.sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
    found.push(...names.map((name) => photoInput(join(source, name))));
  }
  if (found.length === 0)
    throw new CallError(`expected photos, found none in ${given.join(', ')}.`);
  return found;
}

function photoInput(source: string): PhotoInput {
  const path = resolve(source);
  return { source, path, batch: basename(dirname(path)) };
}

/** A mark file: what is drawn, and how it was made. */
export type GivenMark = MarkSource & Pick<ImportedArtwork, 'origin' | 'name'>;

export async function readMark(path: string, imaging: Imaging): Promise<GivenMark> {
  const imported = await imaging.importArtwork(await readGiven(path));
  if (!imported.ok) throw new CallError(`${path}: ${imported.reason}`);
  for (const note of imported.value.notes) process.stderr.write(`light-crest: ${path}: ${note}\n`);
  const { artwork, box, origin, name } = imported.value;
  if (box !== null) {
    process.stderr.write(`light-crest: ${path}: it stands in an opaque box of ${box}.\n`);
  }
  return { key: path, artwork, origin, name };
}

/** What a file gives, with the name it goes by. */
export interface Named<T> {
  readonly name: string;
  readonly value: T;
}

export const NAME_OF_DEFAULTS = 'default';

/** A mark of the call, and the preset that it is laid by. */
export interface MarkOption {
  readonly mark: string;
  readonly preset: string | null;
}

export interface MarkWithPreset {
  readonly mark: GivenMark;
  readonly preset: Named<PresetRule>;
}

/** In the order of the call, the lowest first. */
export async function readMarks(
  options: readonly MarkOption[],
  imaging: Imaging,
): Promise<MarkWithPreset[]> {
  const read: MarkWithPreset[] = [];
  for (const { mark, preset } of options) {
    read.push({ preset: await readPreset(preset), mark: await readMark(mark, imaging) });
  }
  return read;
}

/** A preset file; without one the defaults. */
export async function readPreset(path: string | null): Promise<Named<PresetRule>> {
  if (path === null) return { name: NAME_OF_DEFAULTS, value: DEFAULT_RULE };
  const file = await readJson(path, presetFileSchema);
  return { name: file.name, value: file };
}

/** A JSON file of ours, with every default filled in. */
export async function readJson<T>(path: string, schema: z.ZodType<T>): Promise<T> {
  const text = (await readGiven(path)).toString('utf8').replace(/^\ufeff/, '');
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new CallError(
      `${path}: expected JSON, found something else (${(error as Error).message}).`,
    );
  }
  const checked = validate(schema, value);
  if (!checked.ok) throw new CallError(`${path}: ${checked.reason}`);
  return checked.value;
}

export async function readGiven(path: string): Promise<Buffer> {
  try {
    return await readFile(path);
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    const reason = code === 'ENOENT' ? 'is not there' : `cannot be read (${code})`;
    throw new CallError(`${path} ${reason}.`);
  }
}
