import { basename, extname } from 'node:path';
import { FILE_KINDS } from '#core/delivery/fileKinds';
import { outputName, safeName } from '#core/delivery/namePattern';
import { resizeFrame } from '#core/delivery/resizeFrame';
import type { Size } from '#core/placement/geometry';
import type { RunItemRow } from '../db/runItems.ts';
import type { RunRow } from '../db/runs.ts';
import type { OutputPlace } from './placeOutput.ts';

export type NamedItem = Pick<
  RunItemRow,
  'number' | 'sourceName' | 'capturedAt' | 'width' | 'height' | 'own'
>;
export type NamingRun = Pick<
  RunRow,
  'batchName' | 'presetName' | 'deliveryName' | 'deliveryRule' | 'folder'
>;

/** Where an item's output goes and what it is called, before it is known whether the name is free. */
export function outputPlace(run: NamingRun, item: NamedItem, frame?: Size): OutputPlace {
  const base = outputName(run.deliveryRule.name_pattern, {
    name: basename(item.sourceName, extname(item.sourceName)),
    number: item.number,
    date: item.capturedAt?.slice(0, 'YYYY-MM-DD'.length) ?? '',
    batch: run.batchName,
    preset: item.own?.presetName ?? run.presetName,
    delivery: run.deliveryName,
    ...(frame ?? resizeFrame(item, run.deliveryRule.resize)),
  });
  const extension = FILE_KINDS[run.deliveryRule.file.type].ending;
  return { folder: run.folder, base, extension, existing: run.deliveryRule.existing };
}

/** The folder of a batch below the exports folder. */
export function batchFolderName(batchName: string): string {
  return safeName(batchName) || 'Batch';
}
