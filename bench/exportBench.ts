import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { promisify } from 'node:util';
import pLimit from 'p-limit';
import { deliveryRuleSchema, type DeliveryRule } from '#core/contract/delivery';
import { designSchema } from '#core/contract/design';
import type { MarkSource } from '#server/imaging/compose';
import type { WantedMark } from '#server/imaging/pass/renderJob';
import { SHIPPED_FONTS_FOLDER } from '#server/lettering/fontBook';
import { presetRuleSchema, type PresetRule } from '#core/contract/preset';
import { MAX_PHOTO_PIXELS, photosAtOnce } from '#server/imaging/limits';
import type { Imaging } from '#server/imaging/pool/imaging';
import { sharp } from '#server/imaging/sharp';
import { builtImaging } from './builtImaging.ts';
import { cameraPhotos, MARK } from './material.ts';
import { atMost, interleaved, sharesOf, type Row } from './measure.ts';

/**
 * Our export against the floor (the same decode, resize and encode by the imaging library alone, without a
 * mark) and against other command lines doing the same job. Those run two photos at a time; ours as many
 * as the application does.
 */

const exec = promisify(execFile);
const RIVALS_AT_ONCE = 2;
const ROUNDS = 3;
const FLOOR_ROUNDS = 7;
const QUALITY = 88;
const NAMED = { name: 'a.jpg', number: 1, batch: '' };
const SIZED = { size: { basis: 'long-side', value: 16 } };
/** Choosing looks at the photo, which the rivals do not. */
const IN_ONE_TONE = presetRuleSchema.parse({ ...SIZED, tone: { rule: 'fixed', tone: 'light' } });
const CHOOSING = presetRuleSchema.parse(SIZED);

/** All that can be chosen by looking at the photo. */
const FOLLOWING = presetRuleSchema.parse({
  ...SIZED,
  fallbacks: ['bottom-left'],
  opacity: { rule: 'quiet' },
});
const FOLLOWING_LIMIT = 1.2;

type Work = (path: string, to: string) => Promise<unknown>;

interface Job {
  readonly name: string;
  readonly longSidePx: number | null;
  readonly limit: number;
}

const JOBS: readonly Job[] = [
  { name: '2,048 px', longSidePx: 2_048, limit: 1.08 },
  { name: 'full size', longSidePx: null, limit: 1.12 },
];

export async function exportBench(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'light-crest-bench-'));
  const photos = await cameraPhotos();
  // Enough that the last photo, when a core has nothing to do, counts for little.
  const batch = Array.from({ length: 6 }, () => photos).flat();
  const imaging = builtImaging();
  const imported = await imaging.importArtwork(readFileSync(MARK));
  if (!imported.ok) throw new Error(imported.reason);
  const mark = { key: MARK, artwork: imported.value.artwork };
  const words = await wordsMark(imaging);
  const rows: Row[] = [];
  for (const job of JOBS) {
    const out = join(folder, job.name);
    mkdirSync(out);
    const deliveryRule = deliveryRuleFor(job);
    const overlay = join(folder, `mark ${job.name}.png`);
    await exec('vips', ['thumbnail', MARK, overlay, String(Math.round(longSide(job) * 0.16))]);
    const each =
      (work: Work, atOnce = RIVALS_AT_ONCE) =>
      () => {
        const limit = pLimit(atOnce);
        return Promise.all(
          batch.map((path, index) =>
            limit(() => work(path, join(out, `${index}-${basename(path)}`))),
          ),
        );
      };
    let number = 0;
    const ours = (marks: readonly WantedMark[]) => async (path: string, to: string) => {
      const named = { ...NAMED, number: ++number };
      const job = { source: path, named, outputs: [{ marks, deliveryRule, temporaryPath: to }] };
      const [made] = await imaging.render(job, [mark, words], MAX_PHOTO_PIXELS);
      if (!made.ok) throw new Error(made.reason);
    };
    const marked = (rule: PresetRule) => ours([{ rule, adjustment: {}, mark: 0 }]);
    const followed = ours([
      { rule: FOLLOWING, adjustment: {}, mark: 0 },
      { rule: { ...FOLLOWING, anchor: 'top-left' }, adjustment: {}, mark: 1 },
    ]);
    const bare = each((path, to) => floor(path, to, job));
    const over = await sharesOf(
      {
        bare,
        marked: each(marked(CHOOSING), photosAtOnce()),
        followed: each(followed, photosAtOnce()),
      },
      'bare',
      FLOOR_ROUNDS,
    );
    const times = await interleaved(
      {
        ours: each(marked(IN_ONE_TONE), photosAtOnce()),
        composite: each((path, to) => composite(path, to, job, overlay)),
        magick: each((path, to) => magick(path, to, job, overlay)),
        vips: each((path, to) => vips(path, to, job, overlay)),
      },
      ROUNDS,
    );
    const perPhoto = times.ours / batch.length;
    rows.push(
      atMost(`export, ${job.name}, tone chosen: of the floor`, over.marked, job.limit),
      atMost(`export, ${job.name}: of ImageMagick, two at a time`, times.ours / times.magick, 1),
      atMost(`export, ${job.name}: of libvips, two at a time`, times.ours / times.vips, 1),
      atMost(
        `export, ${job.name}: with two quiet marks, one of words: of the floor`,
        over.followed,
        FOLLOWING_LIMIT,
      ),
      atMost(
        `export, ${job.name}: of the library's own composite`,
        times.ours / times.composite,
        1,
      ),
    );
    process.stdout.write(`${job.name}: ${perPhoto.toFixed(0)} ms a photo in this run\n`);
  }
  imaging.close();
  rmSync(folder, { recursive: true });
  return rows;
}

/** A number and the name of each photo: every one is another picture. */
async function wordsMark(imaging: Imaging): Promise<MarkSource> {
  const lettering = { text: '{number:3} {name}', font: { family: 'montserrat', weight: 500 } };
  const layer = { id: 'w', kind: 'lettering', name: 'Words', lettering };
  const design = designSchema.parse({ layers: [layer] });
  const composed = await imaging.composeDesign(design, {}, [SHIPPED_FONTS_FOLDER], 'Words');
  if (!composed.ok) throw new Error(composed.reason);
  return { key: 'words', artwork: composed.value.artwork };
}

function deliveryRuleFor({ longSidePx }: Pick<Job, 'longSidePx'>): DeliveryRule {
  const resize = longSidePx === null ? null : { px: longSidePx };
  return deliveryRuleSchema.parse({ resize, file: { quality: QUALITY } });
}

function longSide({ longSidePx }: Job): number {
  return longSidePx ?? 6_000;
}

/** With the usual Huffman tables, which ours have at these sizes. */
const ENCODING = { quality: QUALITY, chromaSubsampling: '4:4:4', optimiseCoding: false } as const;

async function floor(path: string, to: string, job: Job): Promise<void> {
  let pipeline = sharp(path).autoOrient();
  if (job.longSidePx) pipeline = pipeline.resize(job.longSidePx, job.longSidePx, { fit: 'inside' });
  await pipeline.jpeg(ENCODING).toFile(to);
}

async function composite(path: string, to: string, job: Job, overlay: string): Promise<void> {
  let pipeline = sharp(path).autoOrient();
  if (job.longSidePx) pipeline = pipeline.resize(job.longSidePx, job.longSidePx, { fit: 'inside' });
  await pipeline
    .composite([{ input: overlay, gravity: 'southeast' }])
    .jpeg(ENCODING)
    .toFile(to);
}

async function magick(path: string, to: string, job: Job, overlay: string): Promise<void> {
  const resize = job.longSidePx ? ['-resize', `${job.longSidePx}x${job.longSidePx}`] : [];
  // The reader may shrink while it decodes, as the others do.
  const hint = job.longSidePx ? ['-define', `jpeg:size=${job.longSidePx}x${job.longSidePx}`] : [];
  await exec('/usr/bin/convert', [
    ...[...hint, path, '-auto-orient', ...resize, overlay, '-gravity', 'southeast'],
    ...['-geometry', '+60+60', '-composite', '-quality', String(QUALITY)],
    ...['-sampling-factor', '4:4:4', '-define', 'jpeg:optimize-coding=false', to],
  ]);
}

async function vips(path: string, to: string, job: Job, overlay: string): Promise<void> {
  const middle = `${to}.v`;
  const side = longSide(job);
  const height = Math.round((side * 2) / 3);
  if (job.longSidePx) await exec('vips', ['thumbnail', path, middle, String(side)]);
  else await exec('vips', ['autorot', path, middle]);
  const options = `Q=${QUALITY},subsample-mode=off`;
  await exec('vips', [
    ...['composite2', middle, overlay, `${to}[${options}]`],
    ...['over', '--x', String(Math.round(side * 0.81)), '--y', String(Math.round(height * 0.85))],
  ]);
  rmSync(middle);
}
