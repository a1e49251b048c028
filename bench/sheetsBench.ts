import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readFile } from 'node:fs/promises';
import { deliveryRuleSchema } from '#core/contract/delivery';
import { DEFAULT_RULE } from '#core/contract/preset';
import { exampleWords } from '#core/lettering/photoWords';
import { preparation } from '#core/sheet/photoOnSheet';
import { MAX_PHOTO_PIXELS } from '#server/imaging/limits';
import { residentBytes } from '#server/imaging/pool/residentBytes';
import type { SheetPhotoJob } from '#server/imaging/sheet/sheetJob';
import { openPdf } from '#tests/helpers/readPdf';
import { builtImaging } from './builtImaging.ts';
import { cameraPhotos, MARK } from './material.ts';
import { atLeast, atMost, timedMs, type Row } from './measure.ts';

/** Many photos in one PDF: how long, in how much memory, and whether another library finds them all in it. */

const FEW = 200;
const MANY = 2_000;
/** Of ten times as many photos. */
const MOST_MEMORY_RATIO = 1.25;
const MOST_OFF_MM = 0.1;
const SAMPLE_MS = 100;
const MB = 1_000_000;
const CAMERA = { width: 6_000, height: 4_000 };
const RULE = deliveryRuleSchema.parse({
  kind: 'sheet',
  sheet: { paper: '10x15', lies: 'across', margin: { top: 5, right: 5, bottom: 5, left: 5 } },
});

export async function sheetsBench(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'light-crest-sheets-'));
  try {
    const few = await written(folder, FEW);
    const many = await written(folder, MANY);
    const pdf = await openPdf(many.path);
    let mostOff = 0;
    let outlines = 0;
    for (let number = 1; number <= MANY; number += MANY / 10) {
      const page = await pdf.page(number);
      // 140 × 90 mm are left: 3 : 2 fits by its height.
      const [{ x, y, width, height }] = page.images;
      const wanted = [7.5, 5, 135, 90];
      const off = [x, y, width, height].map((mm, at) => Math.abs(mm - wanted[at]));
      mostOff = Math.max(mostOff, ...off);
      outlines += page.outlines.length;
    }
    const { pages } = pdf;
    await pdf.close();
    return [
      {
        what: `sheets: bytes of a PDF of ${MANY}`,
        found: `${Math.round(many.bytes / MB)} MB`,
        wanted: '',
        isMet: true,
      },
      atMost(`sheets: ms a photo, ${MANY} in one PDF`, many.ms / MANY, 50, ' ms'),
      atMost(
        `sheets: memory of ${MANY} to that of ${FEW} (${Math.round(few.peakMb)} MB)`,
        many.peakMb / few.peakMb,
        MOST_MEMORY_RATIO,
      ),
      atLeast('sheets: pages read back', pages, MANY),
      atMost('sheets: farthest that a photo is off', mostOff, MOST_OFF_MM, ' mm'),
      atLeast('sheets: marks found as outlines, on ten sheets', outlines, 10),
    ];
  } finally {
    rmSync(folder, { recursive: true });
  }
}

async function written(folder: string, count: number) {
  const imaging = builtImaging();
  try {
    const imported = await imaging.importArtwork(await readFile(MARK));
    if (!imported.ok) throw new Error(imported.reason);
    const mark = { key: 'mark', artwork: imported.value.artwork };
    const sources = await cameraPhotos();
    const ready: SheetPhotoJob[] = [];
    for (const [at, source] of sources.entries()) {
      const how = preparation(RULE, CAMERA, at, CAMERA);
      if (!how.ok) throw new Error(how.reason);
      const temporaryPath = join(folder, `${count} ${at}`);
      const output = {
        marks: [{ rule: DEFAULT_RULE, adjustment: {}, mark: 0 }],
        ...{ deliveryRule: how.value.rule, prepared: how.value.prepared, temporaryPath },
      };
      const job = { source, named: { name: 'a.jpg', number: 1, batch: 'b' }, outputs: [output] };
      const [made] = await imaging.render(job, [mark], MAX_PHOTO_PIXELS);
      if (!made.ok) throw new Error(made.reason);
      const { frame, marks, words = exampleWords(2026) } = made.value;
      ready.push({
        ...{ size: CAMERA, path: temporaryPath, frame, words, caption: '' },
        marks: marks.map(({ placement }) => ({ placement, mark: 0 })),
      });
    }
    const photos = Array.from({ length: count }, (_, at) => ready[at % ready.length]);
    const path = join(folder, `${count}.pdf`);
    const job = { rule: RULE, title: 'Bench', photos, margin: [] };
    let peak = 0;
    const sampling = setInterval(() => {
      peak = Math.max(peak, ...imaging.pids().map(residentBytes));
    }, SAMPLE_MS);
    const ms = await timedMs(async () => {
      const files = [{ sheet: null, temporaryPath: path }];
      const made = await imaging.writeSheets({ ...job, files }, [mark]);
      if (!made.ok) throw new Error(made.reason);
    });
    clearInterval(sampling);
    return { path, ms, peakMb: peak / MB, bytes: statSync(path).size };
  } finally {
    imaging.close();
  }
}
