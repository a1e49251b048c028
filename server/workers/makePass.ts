import { copyFile, mkdir, rm } from 'node:fs/promises';
import { existsSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { basename, join } from 'node:path';
import { without } from '#core/without';
import type { ArtworkFile } from '../imaging/raster/loadArtwork.ts';
import type { RenderPool } from '../imaging/pool/renderPool.ts';
import { SHIPPED_FONTS_FOLDER } from '../lettering/fontBook.ts';
import type { Content, ContentIn } from './contents.ts';
import {
  fencedName,
  type CarriedFont,
  type CarriedMark,
  type PassEnd,
  type PassJob,
} from './passJob.ts';
import { Refused, type WorkerFile } from './storage/passStorage.ts';
import { wayOf, type TakingWays } from './storage/ways.ts';

/** What a worker has to make passes with. */
export interface MakingParts {
  readonly worker: string;
  readonly ways: TakingWays;
  readonly contents: ContentIn;
  /** Of this machine, for fonts put together. */
  readonly folder: string;
  readonly imaging: RenderPool;
}

/** Makes a pass into files of the lease's own names. Never throws. */
export async function makePass(
  pass: PassJob,
  fence: number,
  signal: AbortSignal,
  parts: MakingParts,
): Promise<PassEnd> {
  const { worker, imaging, ways } = parts;
  /** All that is this worker's own while it works. */
  const files: WorkerFile[] = [];
  const held = async (taken: Promise<WorkerFile>): Promise<WorkerFile> => {
    const file = await taken;
    files.push(file);
    return file;
  };
  try {
    const source = await held(wayOf(ways, pass.source).source(pass.source, pass.sourceBytes));
    const outputs: WorkerFile[] = [];
    for (const [index, { folder }] of pass.outputs.entries()) {
      const name = fencedName(pass, index, fence);
      outputs.push(await held(wayOf(ways, folder).output(folder, name)));
    }
    const marks = await Promise.all(pass.marks.map((mark) => artworkOf(mark, parts)));
    // A proxy is of one photo: thousands of them are not kept.
    const seen = pass.proxy && (await held(proxyOf(pass.proxy, parts)));
    const job = {
      ...{ ...pass.job, source: source.path },
      proxy: pass.proxy && seen ? { ...pass.proxy, path: seen.path } : undefined,
      outputs: pass.outputs.map((output, index) => ({
        ...without(output, 'folder'),
        temporaryPath: outputs[index].path,
      })),
    };
    const results = await imaging.render(job, marks, pass.pixels, signal);
    for (const [index, result] of results.entries()) {
      if (result.ok) await outputs[index].deliver(signal);
    }
    const { stem, serial } = pass;
    return { kind: 'made', worker, stem, serial, fence, results };
  } catch (error) {
    await removeMade(pass, fence, ways);
    const reason =
      error instanceof Refused ? error.message : `It failed: ${(error as Error).message}`;
    return { kind: 'refused', worker, reason };
  } finally {
    for (const file of files) await file.giveBack().catch(() => undefined);
  }
}

/** Takes away what was made under a lease that is lost, or in vain. */
export async function removeMade(pass: PassJob, fence: number, ways: TakingWays): Promise<void> {
  for (const [index, { folder }] of pass.outputs.entries()) {
    const name = fencedName(pass, index, fence);
    await wayOf(ways, folder)
      .remove(folder, name)
      .catch(() => undefined);
  }
}

async function proxyOf(proxy: Content, { contents }: MakingParts): Promise<WorkerFile> {
  const path = arrived(await contents.fresh(proxy));
  const giveBack = () => rm(path, { force: true });
  return { path, deliver: () => Promise.resolve(), giveBack };
}

async function artworkOf(mark: CarriedMark, parts: MakingParts): Promise<ArtworkFile> {
  const path = await contentOf(mark.artwork, parts);
  const fontFolders = mark.fonts && (await fontFoldersOf(mark.fonts, parts));
  return { ...without(mark, 'artwork', 'fonts'), path, fontFolders };
}

async function contentOf(content: Content, { contents }: MakingParts): Promise<string> {
  return arrived(await contents.file(content));
}

function arrived(path: string | null): string {
  if (path === null) throw new Refused('What belongs to it has not come here.');
  return path;
}

/** Fonts that were added, laid out as fonts are; a folder a set of them. */
async function fontFoldersOf(fonts: readonly CarriedFont[], parts: MakingParts): Promise<string[]> {
  if (fonts.length === 0) return [SHIPPED_FONTS_FOLDER];
  const key = createHash('sha256').update(JSON.stringify(fonts)).digest('hex').slice(0, 16);
  const folder = join(parts.folder, `fonts-${key}`);
  for (const font of fonts) {
    // Names come from the server alone, and still lead nowhere else.
    const family = join(folder, basename(font.family));
    const path = join(family, basename(font.file));
    if (existsSync(path)) continue;
    await mkdir(family, { recursive: true });
    await copyFile(await contentOf(font, parts), path);
  }
  return [SHIPPED_FONTS_FOLDER, folder];
}
