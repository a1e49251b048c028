import { readdir } from 'node:fs/promises';
import { extname } from 'node:path';
import { failure, success, type Result } from '#core/result';
import { PHOTO_ENDING } from '../imaging/photo/probe.ts';
import { isRawFile } from '../imaging/photo/rawFile.ts';
import { withinTime } from '../storage/withinTime.ts';
import { folderSentence } from './folderSentence.ts';

/** A folder with more photos than this is more likely a whole disk named by mistake. */
export const MAX_FOLDER_PHOTOS = 20_000;

/** What listing a folder may take; one on another computer may never answer. */
const LIST_MS = 30_000;

/** Names in a folder, with those below where it is `recursive`. */
export async function listed(folder: string, recursive = false): Promise<Result<string[]>> {
  try {
    return success(await withinTime(LIST_MS, folder, () => readdir(folder, { recursive })));
  } catch (error) {
    return failure(folderSentence(folder, error));
  }
}

/** Raw files without a developed photo of that name beside them: they are refused, and so told. */
function undeveloped(names: readonly string[], readable: readonly string[]): string[] {
  const bare = (name: string): string => name.slice(0, -extname(name).length).toLowerCase();
  const developed = new Set(readable.map(bare));
  return names.filter((name) => isRawFile(name) && !developed.has(bare(name)));
}

/** What is to be read of a folder, by path below it, in the order of a file manager. */
export async function photosIn(folder: string): Promise<Result<string[]>> {
  const names = await listed(folder, true);
  if (!names.ok) return names;
  const visible = names.value.filter((name) => !/(^|[/\\])\./.test(name));
  const readable = visible.filter((name) => PHOTO_ENDING.test(name));
  const raw = undeveloped(visible, readable);
  if (readable.length === 0) {
    const others = raw.length > 0 ? `: ${raw[0]} and others are raw files of a camera` : '';
    return failure(`${folder} holds no photos that are read${others}.`);
  }
  const photos = [...readable, ...raw].sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
  if (photos.length > MAX_FOLDER_PHOTOS) {
    return failure(
      `Expected at most ${MAX_FOLDER_PHOTOS.toLocaleString('en')} photos in a folder, found ` +
        `${photos.length.toLocaleString('en')} in ${folder}. Choose a folder inside it.`,
    );
  }
  return success(photos);
}
