import { rm } from 'node:fs/promises';
import { basename, extname } from 'node:path';
import type { DeliveryRule } from '#core/contract/delivery';
import { outputName } from '#core/delivery/namePattern';
import type { Size } from '#core/placement/geometry';
import { failure, type Result } from '#core/result';
import type { RenderedOutput } from '#server/imaging/pass/renderJob';
import type { DescribedPhoto } from '#server/imaging/pool/imagingTasks';
import { placeOutput } from '#server/runs/placeOutput';
import type { ExportCall, Task } from './exportPhoto.ts';
import type { Named } from './inputs.ts';

/** Stands in for the size of a photo that cannot be opened; its place stays empty. */
export const USUAL_SIZE: Size = Object.freeze({ width: 3, height: 2 });

/** A photo that was made ready. */
export interface Ready {
  readonly path: string;
  readonly rendered: RenderedOutput;
}

export type PlacedDocument = { readonly status: 'written' | 'skipped'; readonly output: string };

/** What a call is, as if it were a run of one delivery. */
export function runOf(
  batchName: string,
  presetName: string,
  { name, value: rule }: Named<DeliveryRule>,
  folder: string,
) {
  const deliveries = [{ deliveryId: null, name, rule, folder, makesFolder: false, zip: false }];
  return { batchName, presetName, deliveries };
}

/** A document that was written gets its name. */
export async function named(
  written: Result<unknown>,
  temporaryPath: string,
  place: Parameters<typeof placeOutput>[1],
  knowledge: ExportCall['knowledge'],
  source: string,
): Promise<Result<PlacedDocument>> {
  if (!written.ok) return written;
  const placed = await placeOutput(temporaryPath, place, knowledge, source);
  if (placed.status !== 'written') await rm(temporaryPath, { recursive: true, force: true });
  return placed.status === 'failed' ? failure(placed.reason) : { ok: true, value: placed };
}

/** What is written below a photo. */
export function lineOf(
  pattern: string | null,
  { photo, number }: Task,
  described: Result<DescribedPhoto>,
  delivery: Named<DeliveryRule>,
  preset: string,
): string {
  if (pattern === null) return '';
  const { size, capturedAt } = described.ok
    ? described.value
    : { size: USUAL_SIZE, capturedAt: null };
  return outputName(pattern, {
    name: basename(photo.path, extname(photo.path)),
    ...{ number, batch: photo.batch, delivery: delivery.name, preset, ...size },
    date: capturedAt?.slice(0, 'YYYY-MM-DD'.length) ?? '',
  });
}
