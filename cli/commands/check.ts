import pLimit from 'p-limit';
import { ANCHOR_WORDS } from '#core/placement/suggestName';
import type { Readability } from '#core/readability/measure';
import type { Result } from '#core/result';
import type { CheckedPhoto } from '#server/imaging/checkPhoto';
import { photosAtOnce } from '#server/imaging/limits';
import { Imaging } from '#server/imaging/pool/imaging';
import { EXIT } from '../exit.ts';
import { findPhotos, readMark, readPreset, type PhotoInput } from '../inputs.ts';
import { Progress } from '../progress.ts';

export interface CheckOptions {
  readonly mark: string;
  readonly preset?: string;
  readonly json?: true;
}

/** Placement, readability and clean crop of each photo, writing nothing (contract, section 6). */
export async function check(given: readonly string[], options: CheckOptions): Promise<number> {
  const imaging = new Imaging();
  try {
    const photos = await findPhotos(given);
    const preset = await readPreset(options.preset);
    const mark = await readMark(options.mark, imaging);
    const progress = new Progress(photos.length);
    const limit = pLimit(photosAtOnce());
    let failed = 0;
    // Printed in the order of the call, each as soon as those before it are there.
    let printed: Promise<void> = Promise.resolve();
    await Promise.all(
      photos.map((photo) => {
        const checked = limit(() => imaging.check(photo.path, preset.value, {}, mark));
        printed = printed.then(async () => {
          const result = await checked;
          if (!result.ok) failed++;
          print(photo, result, options.json ?? false);
        });
        return checked.finally(() => progress.step());
      }),
    );
    await printed;
    progress.end();
    return failed > 0 ? EXIT.someFailed : EXIT.done;
  } finally {
    imaging.close();
  }
}

function print({ source }: PhotoInput, result: Result<CheckedPhoto>, json: boolean): void {
  if (json) process.stdout.write(`${JSON.stringify(jsonLine(source, result))}\n`);
  if (!result.ok) process.stderr.write(`light-crest: ${source}: ${result.reason}\n`);
  else if (!json) process.stdout.write(`${source}: ${sentence(result.value)}\n`);
}

function jsonLine(source: string, result: Result<CheckedPhoto>) {
  const checked = result.ok ? result.value : null;
  return {
    source,
    delivery: null,
    status: result.ok ? 'checked' : 'failed',
    error: result.ok ? null : result.reason,
    frame: checked?.frame ?? null,
    copies: checked?.placement.copies ?? null,
    tone: checked?.placement.tone ?? null,
    anchor: checked?.placement.anchor ?? null,
    reduced: checked?.placement.reduced ?? null,
    rescued: checked ? checked.placement.rescue !== null : null,
    readability: checked?.readability ? readabilityJson(checked.readability) : null,
    clean_crop: checked?.cleanCrop ?? null,
    ms: checked?.durationMs ?? null,
  };
}

/** The fields of the contract, section 6. */
export function readabilityJson({ class: kind, share, contrast }: Readability) {
  return { class: kind, share, contrast };
}

function sentence({ placement, readability, cleanCrop: crop }: CheckedPhoto): string {
  const percent = (share: number): string => `${Math.round(share * 100)} %`;
  const free = `${percent(crop)} of the frame can be cropped free of the mark`;
  if (!readability) return `nothing of the mark lies on it; ${free}`;
  const { class: kind, share, contrast } = readability;
  const { tone, anchor, rescue, reduced } = placement;
  const how = [
    tone,
    ANCHOR_WORDS[anchor],
    rescue ? `${rescue.kind} at ${percent(rescue.strength)}` : null,
    reduced ? 'made smaller to fit' : null,
  ].filter(Boolean);
  const reads = `${percent(share)} reads, ${contrast.toFixed(1)} L* apart`;
  return `${kind} (${reads}); ${how.join(', ')}; ${free}`;
}
