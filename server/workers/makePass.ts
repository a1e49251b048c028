import { mkdir, access, rm, stat, constants, copyFile } from 'node:fs/promises';
import { existsSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { basename, join } from 'node:path';
import { without } from '#core/without';
import type { ArtworkFile } from '../imaging/raster/loadArtwork.ts';
import type { RenderPool } from '../imaging/pool/renderPool.ts';
import { SHIPPED_FONTS_FOLDER } from '../lettering/fontBook.ts';
import type { ContentIn } from './contents.ts';
import {
  fencedName,
  type CarriedFont,
  type CarriedMark,
  type PassEnd,
  type PassJob,
} from './passJob.ts';
import type { Roots } from './roots.ts';

/** What a worker has to make passes with. */
export interface MakingParts {
  readonly worker: string;
  readonly roots: Roots;
  readonly contents: ContentIn;
  /** Of this machine, for fonts put together. */
  readonly folder: string;
  readonly imaging: RenderPool;
}

/** A pass cannot be made here; it may be elsewhere. */
class Refused extends Error {}

/** Makes a pass into files of the lease's own names. Never throws. */
export async function makePass(
  pass: PassJob,
  fence: number,
  signal: AbortSignal,
  parts: MakingParts,
): Promise<PassEnd> {
  const { worker, imaging } = parts;
  let seen: string | null = null;
  try {
    const source = await sourceOf(pass, parts.roots);
    const files = await filesOf(pass, fence, parts.roots);
    const marks = await Promise.all(pass.marks.map((mark) => artworkOf(mark, parts)));
    // A proxy is of one photo: thousands of them are not kept.
    if (pass.proxy) seen = arrived(await parts.contents.fresh(pass.proxy));
    const proxy = pass.proxy && seen ? { ...pass.proxy, path: seen } : undefined;
    const job = {
      ...{ ...pass.job, source, proxy },
      outputs: pass.outputs.map((output, index) => ({
        ...without(output, 'folder'),
        temporaryPath: files[index],
      })),
    };
    const results = await imaging.render(job, marks, pass.pixels, signal);
    const { stem, serial } = pass;
    return { kind: 'made', worker, stem, serial, fence, results };
  } catch (error) {
    await removeMade(pass, fence, parts.roots);
    const reason =
      error instanceof Refused ? error.message : `It failed: ${(error as Error).message}`;
    return { kind: 'refused', worker, reason };
  } finally {
    if (seen !== null) await rm(seen, { force: true }).catch(() => undefined);
  }
}

/** Takes away what was made under a lease that is lost. */
export async function removeMade(pass: PassJob, fence: number, roots: Roots): Promise<void> {
  for (const [index, { folder }] of pass.outputs.entries()) {
    const path = roots.pathOf(folder);
    if (path !== null) await rm(join(path, fencedName(pass, index, fence)), { force: true });
  }
}

/** As the server sees it: a share that is not mounted here says nothing about the photo. */
async function sourceOf(pass: PassJob, roots: Roots): Promise<string> {
  const path = roots.pathOf(pass.source);
  const found = path === null ? null : await stat(path).catch(() => null);
  if (path === null || found?.size !== pass.sourceBytes) {
    const name = basename(pass.source.path);
    throw new Refused(`${name} is not below ${pass.source.root} here as the server sees it.`);
  }
  return path;
}

async function filesOf(pass: PassJob, fence: number, roots: Roots): Promise<string[]> {
  const files: string[] = [];
  for (const [index, { folder }] of pass.outputs.entries()) {
    const path = roots.pathOf(folder);
    const isWritable =
      path !== null &&
      (await access(path, constants.W_OK).then(
        () => true,
        () => false,
      ));
    if (path === null || !isWritable) {
      throw new Refused(`${folder.root}/${folder.path} cannot be written to here.`);
    }
    files.push(join(path, fencedName(pass, index, fence)));
  }
  return files;
}

async function artworkOf(mark: CarriedMark, parts: MakingParts): Promise<ArtworkFile> {
  const path = await contentOf(mark.artwork, parts);
  const fontFolders = mark.fonts && (await fontFoldersOf(mark.fonts, parts));
  return { ...without(mark, 'artwork', 'fonts'), path, fontFolders };
}

async function contentOf(
  content: Parameters<ContentIn['file']>[0],
  { contents }: MakingParts,
): Promise<string> {
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
