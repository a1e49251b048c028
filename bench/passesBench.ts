import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pLimit from 'p-limit';
import { deliveryRuleSchema, type DeliveryRule } from '#core/contract/delivery';
import { presetRuleSchema } from '#core/contract/preset';
import { MAX_PHOTO_PIXELS, photosAtOnce } from '#server/imaging/limits';
import type { RenderJob } from '#server/imaging/pass/renderJob';
import { builtImaging } from './builtImaging.ts';
import { cameraPhotos, MARK } from './material.ts';
import { atMost, sharesOf, told, type Row } from './measure.ts';

/** What passes save and cost: one decode for several outputs, untouched JPEGs, reading back. */

/** Short ones: what is compared is seconds apart. */
const ROUNDS = 9;
const TIMES_EACH_PHOTO = 3;
const RULE = presetRuleSchema.parse({
  tone: { rule: 'fixed', tone: 'light' },
  size: { basis: 'long-side', value: 16 },
});

const jpeg = (px: number | null, quality: number | 'untouched' = 88): DeliveryRule =>
  deliveryRuleSchema.parse({ resize: px === null ? null : { px }, file: { quality } });
const THREE = [jpeg(null), jpeg(2_048), jpeg(1_200)];

export async function passesBench(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'light-crest-bench-'));
  const photos = await cameraPhotos();
  const batch = Array.from({ length: TIMES_EACH_PHOTO }, () => photos).flat();
  const imaging = builtImaging();
  const imported = await imaging.importArtwork(readFileSync(MARK));
  if (!imported.ok) throw new Error(imported.reason);
  const mark = { key: MARK, artwork: imported.value.artwork };
  const limit = pLimit(photosAtOnce());
  const run =
    (rules: readonly DeliveryRule[], more: Partial<RenderJob> = {}) =>
    () =>
      Promise.all(
        batch.map((source, index) =>
          limit(async () => {
            const outputs = rules.map((deliveryRule, at) => ({
              marks: [{ rule: RULE, adjustment: {}, mark: 0 }],
              deliveryRule,
              temporaryPath: join(folder, `${index} ${at}`),
            }));
            const job = {
              source,
              named: { name: 'a.jpg', number: 1, batch: '' },
              outputs,
              ...more,
            };
            for (const made of await imaging.render(job, [mark], MAX_PHOTO_PIXELS)) {
              if (!made.ok) throw new Error(made.reason);
            }
          }),
        ),
      );
  const apart = async () => {
    for (const rule of THREE) await run([rule])();
  };
  const [full] = THREE;
  const three = { together: run(THREE), apart, full: run([full]) };
  const several = await sharesOf(three, 'apart', ROUNDS);
  // At the quality that the photos came with, so that as many bytes are written.
  const blocks = { untouched: run([jpeg(null, 'untouched')]), whole: run([jpeg(null, 95)]) };
  const { untouched } = await sharesOf(blocks, 'whole', ROUNDS);
  const rows = [
    atMost('passes, three deliveries: of three runs', several.together, 0.6),
    // Below this no pass can come that writes the full size, too.
    told('passes, full size alone: of three runs', several.full),
    atMost('passes, untouched JPEG: of encoding all of it', untouched, 0.5),
  ];
  for (const px of [2_048, null]) {
    const rule = jpeg(px);
    const times = { read: run([rule], { readsBack: true }), not: run([rule]) };
    const { read } = await sharesOf(times, 'not', ROUNDS);
    const name = px === null ? 'full size' : '2,048 px';
    rows.push(atMost(`passes, read back, ${name}: of not`, read, 1.1));
  }
  imaging.close();
  rmSync(folder, { recursive: true });
  return rows;
}
