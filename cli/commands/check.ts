import pLimit from 'p-limit';
import type { Placement } from '#core/placement/placeMark';
import { ANCHOR_WORDS } from '#core/placement/suggestName';
import { cleanCrop } from '#core/placement/cleanCrop';
import type { PresetRule } from '#core/contract/preset';
import type { Readability } from '#core/readability/measure';
import type { Size } from '#core/placement/geometry';
import { success, type Result } from '#core/result';
import type { MarkSource } from '#server/imaging/compose';
import { photosAtOnce } from '#server/imaging/limits';
import { judgePhoto } from '#server/imaging/judgePhoto';
import { photoYear, probePhoto } from '#server/imaging/photo/probe';
import { followsYear } from '#server/imaging/raster/artwork';
import { workingPhoto } from '#server/imaging/workingPhoto';
import { Rasteriser } from '#server/imaging/raster/rasteriser';
import { EXIT } from '../exit.ts';
import { findPhotos, readMark, readPreset, type PhotoInput } from '../inputs.ts';
import { Progress } from '../progress.ts';

export interface CheckOptions {
  readonly mark: string;
  readonly preset?: string;
  readonly json?: true;
}

interface Checked {
  readonly frame: Size;
  readonly placement: Placement;
  readonly readability: Readability | null;
  readonly cleanCrop: number;
  readonly durationMs: number;
}

/** Placement, readability and clean crop of each photo, writing nothing (contract, section 6). */
export async function check(given: readonly string[], options: CheckOptions): Promise<number> {
  const rasteriser = new Rasteriser();
  try {
    const photos = await findPhotos(given);
    const preset = await readPreset(options.preset);
    const mark = await readMark(options.mark, rasteriser);
    const progress = new Progress(photos.length);
    const limit = pLimit(photosAtOnce());
    let failed = 0;
    // Printed in the order of the call, each as soon as those before it are there.
    let printed: Promise<void> = Promise.resolve();
    await Promise.all(
      photos.map((photo) => {
        const checked = limit(() => checkOne(photo, preset.value, mark, rasteriser));
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
    rasteriser.close();
  }
}

async function checkOne(
  { path }: PhotoInput,
  rule: PresetRule,
  mark: MarkSource,
  rasteriser: Rasteriser,
): Promise<Result<Checked>> {
  const startMs = performance.now();
  const probed = await probePhoto(path);
  if (!probed.ok) return probed;
  const frame = probed.value.size;
  const dated = followsYear(mark.artwork) ? await photoYear(path, probed.value) : null;
  const year = dated?.year ?? new Date().getFullYear();
  const photo = await workingPhoto(path, probed.value, frame);
  if (!photo.ok) return photo;
  const judged = await judgePhoto(
    photo.value,
    { frame, rule, adjustment: {}, year },
    mark,
    rasteriser,
  );
  if (!judged.ok) return judged;
  const { placement, readability } = judged.value;
  const boxes = placement.copies.map((copy) => copy.box);
  return success({
    frame,
    placement,
    readability,
    cleanCrop: cleanCrop(frame, boxes).share,
    durationMs: Math.round(performance.now() - startMs),
  });
}

function print({ source }: PhotoInput, result: Result<Checked>, json: boolean): void {
  if (json) process.stdout.write(`${JSON.stringify(jsonLine(source, result))}\n`);
  if (!result.ok) process.stderr.write(`light-crest: ${source}: ${result.reason}\n`);
  else if (!json) process.stdout.write(`${source}: ${sentence(result.value)}\n`);
}

function jsonLine(source: string, result: Result<Checked>) {
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

function sentence({ placement, readability, cleanCrop: crop }: Checked): string {
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
