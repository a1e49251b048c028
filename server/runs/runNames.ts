import { basename, extname } from 'node:path';
import { TYPE_FACTS } from '#core/delivery/typeFacts';
import { outputName, safeName } from '#core/delivery/namePattern';
import { resizeFrame } from '#core/delivery/resizeFrame';
import type { Size } from '#core/placement/geometry';
import type { RunItemRow } from '../db/runItemRows.ts';
import type { RunDelivery, RunRow } from '../db/runs.ts';
import type { OutputPlace } from './placeOutput.ts';

export type NamedItem = Pick<
  RunItemRow,
  'number' | 'delivery' | 'sourceName' | 'capturedAt' | 'width' | 'height' | 'own'
>;
export type NamingRun = Pick<RunRow, 'batchName' | 'presetName' | 'deliveries'>;

/** The delivery that an item is of. */
export function deliveryOf(
  { deliveries }: Pick<RunRow, 'deliveries'>,
  { delivery }: Pick<RunItemRow, 'delivery'>,
): RunDelivery {
  return deliveries[delivery - 1];
}

/** The folders of a run, each once. */
export function foldersOf({ deliveries }: Pick<RunRow, 'deliveries'>): string[] {
  return [...new Set(deliveries.map(({ folder }) => folder))];
}

/** Where an item's output goes and what it is called, before it is known whether the name is free. */
export function outputPlace(run: NamingRun, item: NamedItem, frame?: Size): OutputPlace {
  const { name, rule, folder } = deliveryOf(run, item);
  const base = outputName(rule.name_pattern, {
    name: basename(item.sourceName, extname(item.sourceName)),
    number: item.number,
    date: item.capturedAt?.slice(0, 'YYYY-MM-DD'.length) ?? '',
    batch: run.batchName,
    preset: item.own?.presetName ?? run.presetName,
    delivery: name,
    ...(frame ?? resizeFrame(item, rule.resize)),
  });
  const extension = TYPE_FACTS[rule.file.type].ending;
  return { folder, base, extension, existing: rule.existing };
}

/** The folder of a batch below the exports folder. */
export function batchFolderName(batchName: string): string {
  return safeName(batchName) || 'Batch';
}
