import { copyFile, mkdir, open, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { TYPE_FACTS } from '#core/delivery/typeFacts';
import { exampleWords } from '#core/lettering/photoWords';
import type { PhotoWords } from '#core/lettering/words';
import { success, failure, type Result } from '#core/result';
import { showPage, type ShownPhoto } from '#core/show/showPage';
import { storageSentence } from '../../storage/storageErrors.ts';
import { PROJECT_FOLDER } from '../../projectFolder.ts';
import type { MarkSource } from '../compose.ts';
import { pngOfRaster } from '../pngOfRaster.ts';
import { shapeOf } from '../raster/artwork.ts';
import type { Rasteriser } from '../raster/rasteriser.ts';
import type { WrittenDocument } from '../sheet/sheetJob.ts';
import type { ShowJob } from './showJob.ts';

const PLAYER_FOLDER = join(PROJECT_FOLDER, 'server/imaging/show');
const PLAYER_FILES = ['player.js', 'show.css'] as const;
/** Of the mark on the title card, px of its longer side. */
const MARK_LONG_SIDE_PX = 1_600;

/** A show as a folder: a page, what plays it, and the photos; it needs nothing from outside. */
export async function writeShow(
  job: ShowJob,
  marks: readonly MarkSource[],
  rasteriser: Rasteriser,
): Promise<Result<WrittenDocument>> {
  const { rule, temporaryPath } = job;
  const mark = job.mark ? await markPicture(job.mark, marks, rasteriser) : null;
  if (mark && !mark.ok) return mark;
  const picture = mark?.value ?? null;
  const isOnScreen = rule.show.mark_on === 'screen';
  if (job.mark && !picture && isOnScreen) return failure(NOTHING_TO_SAY);
  try {
    const files: string[] = [];
    const write = async (name: string, content: string | Uint8Array): Promise<void> => {
      await writeFile(join(temporaryPath, name), content);
      files.push(name);
    };
    await mkdir(join(temporaryPath, 'photos'), { recursive: true });
    const digits = String(job.photos.length).length;
    const photos: ShownPhoto[] = [];
    for (const [at, { path, name, caption }] of job.photos.entries()) {
      const number = String(at + 1).padStart(digits, '0');
      const file = `photos/${number}.${TYPE_FACTS[rule.file.type].ending}`;
      await copyFile(path, join(temporaryPath, file));
      files.push(file);
      photos.push({ file, name, caption });
    }
    if (picture) await write('mark.png', picture);
    for (const name of PLAYER_FILES) await write(name, await readFile(join(PLAYER_FOLDER, name)));
    const corner = job.mark && isOnScreen ? job.mark.rule : null;
    const page = { rule: rule.show, name: job.name, photos, corner };
    await write('index.html', showPage({ ...page, mark: picture ? 'mark.png' : null }));
    let bytes = 0;
    for (const name of files) bytes += await flushed(join(temporaryPath, name));
    return success({ temporaryPath, bytes });
  } catch (error) {
    await rm(temporaryPath, { recursive: true, force: true }).catch(() => undefined);
    return failure(storageSentence(join(temporaryPath, 'index.html'), error));
  }
}

const NOTHING_TO_SAY =
  'The mark says words of single photos alone, so that it cannot stand still on the screen. Put it on the photos.';

/** On a dark screen: in its lightest, unless the preset says a tone. Null: without a photo it says nothing. */
async function markPicture(
  { rule, mark: place }: NonNullable<ShowJob['mark']>,
  marks: readonly MarkSource[],
  rasteriser: Rasteriser,
): Promise<Result<Uint8Array | null>> {
  const { key, artwork } = marks[place];
  const words = nobodysWords();
  const { ink, bleed, isEmpty } = shapeOf(artwork, words);
  if (isEmpty) return success(null);
  const scale = MARK_LONG_SIDE_PX / Math.max(ink.width, ink.height);
  const [width, height] = [ink.width * scale, ink.height * scale];
  const [around, above] = [width * bleed.x, height * bleed.y];
  const spec = {
    width: Math.ceil(width + 2 * around),
    height: Math.ceil(height + 2 * above),
    ...{ centreX: width / 2 + around, centreY: height / 2 + above },
    ...{ markWidth: width, markHeight: height, rotation: 0 },
  };
  const tone = rule.tone.rule === 'fixed' ? rule.tone.tone : 'light';
  const onDark = tone === 'dark' ? 'light' : tone;
  const raster = await rasteriser.raster(key, artwork, spec, onDark, words);
  return raster.ok ? success(await pngOfRaster(raster.value)) : raster;
}

/** A mark that holds words of a photo says none of them where it is not on a photo, but for the year. */
function nobodysWords(): PhotoWords {
  const year = new Date().getFullYear();
  const empty = Object.keys(exampleWords(year)).map((token) => [token, '']);
  return { ...(Object.fromEntries(empty) as PhotoWords), year: String(year) };
}

async function flushed(path: string): Promise<number> {
  const file = await open(path, 'r+');
  try {
    await file.sync();
  } finally {
    await file.close();
  }
  return (await stat(path)).size;
}
