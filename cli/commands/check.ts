import { basename } from 'node:path';
import pLimit from 'p-limit';
import { ANCHOR_WORDS } from '#core/placement/suggestName';
import type { Result } from '#core/result';
import type { CheckedPhoto } from '#server/imaging/checkPhoto';
import { photosAtOnce } from '#server/imaging/limits';
import type { DrawnMark } from '#server/imaging/pass/renderJob';
import { Imaging } from '#server/imaging/pool/imaging';
import { EXIT } from '../exit.ts';
import { findPhotos, readMarks, type MarkOption, type PhotoInput } from '../inputs.ts';
import { marksJson } from './marksJson.ts';
import { Progress } from '../progress.ts';

export interface CheckOptions {
  readonly marks: readonly MarkOption[];
  readonly json?: true;
}

/** Placement, readability and clean crop of each photo, writing nothing (contract, section 6). */
export async function check(given: readonly string[], options: CheckOptions): Promise<number> {
  const imaging = new Imaging();
  try {
    const photos = await findPhotos(given);
    const marks = await readMarks(options.marks, imaging);
    const wanted = marks.map(({ preset }, mark) => ({ rule: preset.value, adjustment: {}, mark }));
    const artworks = marks.map(({ mark }) => mark);
    const progress = new Progress(photos.length);
    const limit = pLimit(photosAtOnce());
    let failed = 0;
    // Printed in the order of the call, each as soon as those before it are there.
    let printed: Promise<void> = Promise.resolve();
    await Promise.all(
      photos.map((photo, index) => {
        const named = { name: basename(photo.path), number: index + 1, batch: photo.batch };
        const checked = limit(() => imaging.check(photo.path, named, wanted, artworks));
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
    ...marksJson(checked?.marks ?? []),
    clean_crop: checked?.cleanCrop ?? null,
    ms: checked?.durationMs ?? null,
  };
}

function sentence({ marks, cleanCrop: crop }: CheckedPhoto): string {
  const free = `${percent(crop)} of the frame can be cropped free of the mark`;
  return [...marks.map(markSentence), free].join('; ');
}

function percent(share: number): string {
  return `${Math.round(share * 100)} %`;
}

function markSentence({ placement, readability }: DrawnMark): string {
  if (!readability) return 'nothing of the mark lies on it';
  const { class: kind, share, contrast, weakest } = readability;
  const { tone, anchor, opacity, rescue, reduced } = placement;
  const how = [
    tone,
    ANCHOR_WORDS[anchor],
    `opacity ${percent(opacity)}`,
    rescue ? `${rescue.kind} at ${percent(rescue.strength)}` : null,
    reduced ? 'made smaller to fit' : null,
  ].filter(Boolean);
  const part = weakest < share ? `, ${percent(weakest)} of its weakest part` : '';
  const reads = `${percent(share)} reads${part}, ${contrast.toFixed(1)} L* apart`;
  return `${kind} (${reads}); ${how.join(', ')}`;
}
