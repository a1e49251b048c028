import { createHash, randomBytes } from 'node:crypto';
import { readdir, stat } from 'node:fs/promises';
import { dirname, extname, join } from 'node:path';
import { UNTOUCHED } from '#core/contract/delivery';
import { without } from '#core/without';
import type { RenderJob } from '../imaging/pass/renderJob.ts';
import type { GivenMark } from '../imaging/pool/imagingTasks.ts';
import { SHIPPED_FONTS_FOLDER } from '../lettering/fontBook.ts';
import type { Content, ContentOut, OwnContent } from './contents.ts';
import type { Ability } from './crewNames.ts';
import type { CarriedFont, CarriedMark, PassJob } from './passJob.ts';
import { workerStem } from '../runs/runTemporaries.ts';
import type { SourceFile } from './storage/passStorage.ts';
import { outputsAt, sourceAt, type HandingWays } from './storage/ways.ts';

/** A pass made ready to travel. */
export interface CarriedPass {
  /** The same for the same work, however often and by whichever server it is asked for. */
  readonly id: string;
  readonly needs: readonly Ability[];
  readonly pass: PassJob;
  /** The photo on this machine. */
  readonly source: SourceFile;
  readonly contents: readonly OwnContent[];
}

const SERIAL_BYTES = 4;

export function newSerial(): string {
  return randomBytes(SERIAL_BYTES).toString('hex');
}

/** @returns null where something of it lies where other machines cannot reach it */
export async function carryPass(
  job: RenderJob,
  marks: readonly GivenMark[],
  pixels: number,
  ways: HandingWays,
  out: ContentOut,
): Promise<CarriedPass | null> {
  const { key, proxy } = job;
  if (key === undefined) return null;
  const stem = workerStem(key);
  const { size, mtimeMs } = await stat(job.source);
  const source = { path: job.source, bytes: size, modifiedMs: mtimeMs };
  const place = sourceAt(ways, stem, source);
  const outputs = job.outputs.map((output) => {
    const folder = outputsAt(ways, stem, dirname(output.temporaryPath));
    return folder && { ...without(output, 'temporaryPath'), folder };
  });
  const reached = outputs.flatMap((output) => output ?? []);
  if (!place || reached.length < outputs.length) return null;
  const contents: OwnContent[] = [];
  const take = async (path: string, ending: string, only?: string): Promise<Content | null> => {
    const known = await out.known(path, ending);
    if (!known) return null;
    const content = { hash: known.hash, ending, ...(only === undefined ? {} : { only }) };
    contents.push({ ...content, path });
    return content;
  };
  const carried: CarriedMark[] = [];
  for (const mark of marks) {
    // Artwork that is no file is in no run.
    if ('key' in mark) return null;
    const { path, fontFolders, ...rest } = mark;
    const artwork = await take(path, `.${mark.kind}`);
    const fonts = fontFolders && (await ownFonts(fontFolders, take));
    if (!artwork || (fontFolders && !fonts)) return null;
    carried.push({ ...rest, artwork, fonts });
  }
  const seen = proxy ? await take(proxy.path, extname(proxy.path), stem) : null;
  if (proxy && !seen) return null;
  const pass: PassJob = {
    ...{ serial: newSerial(), stem, source: place, sourceBytes: size, pixels },
    job: without(job, 'source', 'proxy', 'outputs'),
    proxy: proxy && seen ? { ...seen, width: proxy.width, height: proxy.height } : null,
    ...{ outputs: reached, marks: carried },
  };
  const said = JSON.stringify([without(pass, 'serial'), mtimeMs]);
  const hash = createHash('sha256').update(said).digest('hex').slice(0, 16);
  return { id: `${key}-${hash}`, needs: needsOf(job), pass, source, contents };
}

function needsOf({ source, outputs }: RenderJob): Ability[] {
  const ending = extname(source).toLowerCase();
  const needs: Ability[] = ['.heic', '.heif'].includes(ending) ? ['heic'] : [];
  const isJpeg = ['.jpg', '.jpeg'].includes(ending);
  const wants = outputs.some(({ deliveryRule }) => deliveryRule.file.quality === UNTOUCHED);
  return isJpeg && wants ? [...needs, 'untouched'] : needs;
}

/** Fonts that were added; those that are shipped are on every machine. */
async function ownFonts(
  folders: readonly string[],
  take: (path: string, ending: string) => Promise<Content | null>,
): Promise<CarriedFont[] | null> {
  const fonts: CarriedFont[] = [];
  for (const folder of folders) {
    if (folder === SHIPPED_FONTS_FOLDER) continue;
    for (const family of await namesIn(folder)) {
      for (const file of await namesIn(join(folder, family))) {
        const content = await take(join(folder, family, file), extname(file));
        if (!content) return null;
        fonts.push({ ...content, family, file });
      }
    }
  }
  return fonts;
}

async function namesIn(folder: string): Promise<string[]> {
  try {
    return (await readdir(folder)).sort();
  } catch {
    return [];
  }
}
