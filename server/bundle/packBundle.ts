import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { BUNDLE_FORMAT, BUNDLE_NOTE, type Bundle } from '#core/contract/bundle';
import type { Design } from '#core/contract/design';
import { faceKey } from '#core/lettering/shippedFonts';
import { mayBeHandedOn } from '#core/lettering/sfnt';
import { failure, success, type Result } from '#core/result';
import type { DeliveryRow } from '../db/deliveries.ts';
import type { MarkRow } from '../db/markRows.ts';
import type { PresetRow } from '../db/presets.ts';
import type { Tables } from '../db/tables.ts';
import { exampleWordsNow } from '../lettering/examples.ts';
import type { MarkPictures } from '../markPictures.ts';
import type { DataPaths } from '../storage/dataPaths.ts';

export interface PackParts {
  readonly tables: Tables;
  readonly pictures: MarkPictures;
  readonly paths: DataPaths;
}

/** Ids of what is to be packed. */
export interface PackWish {
  readonly marks: readonly number[];
  readonly presets: readonly number[];
  readonly deliveries: readonly number[];
}

/** Files of a bundle by their names in the ZIP. */
export type PackedFiles = ReadonlyMap<string, string | Uint8Array>;

/** Chosen things with what they cannot be without: presets with their marks, deliveries with their presets. */
export async function packBundle(wish: PackWish, parts: PackParts): Promise<Result<PackedFiles>> {
  const { tables } = parts;
  const deliveries = found(wish.deliveries, (id) => tables.deliveries.get(id));
  const presetIds = [...wish.presets, ...deliveries.flatMap(presetsOf)];
  const presets = found(presetIds, (id) => tables.presets.get(id));
  const markIds = [...wish.marks, ...presets.map(({ markId }) => markId)];
  const marks = found(markIds, (id) => tables.marks.get(id));
  const files = new Map<string, string | Uint8Array>();
  const bundle: Bundle = {
    ...{ ...BUNDLE_FORMAT, made_at: new Date().toISOString() },
    fonts: await fontsOf(marks, parts, files),
    marks: [],
    presets: presets.map(({ id, name, markId, rule }) => ({
      ...{ key: keyOf(id), name, mark: keyOf(markId), rule },
    })),
    deliveries: deliveries.map((delivery) => ({
      ...{ key: keyOf(delivery.id), name: delivery.name, rule: delivery.rule },
      presets: presetsOf(delivery).map(keyOf),
    })),
  };
  for (const mark of marks) {
    const svg = await markFile(mark, parts);
    if (!svg.ok) return failure(`${mark.name}: ${svg.reason}`);
    const file = `marks/${keyOf(mark.id)}.svg`;
    files.set(file, svg.value);
    bundle.marks.push({ key: keyOf(mark.id), name: mark.name, file });
  }
  files.set(BUNDLE_NOTE, `${JSON.stringify(bundle, null, 2)}\n`);
  return success(files);
}

/** A mark as it lies in a bundle: in its own colours, with how it was made. */
export function markFile(mark: MarkRow, { pictures }: Pick<PackParts, 'pictures'>) {
  return pictures.svg(mark, { tone: 'original', words: exampleWordsNow() });
}

function keyOf(id: number): string {
  return String(id);
}

function presetsOf({ presetId, overIds }: DeliveryRow): number[] {
  return presetId === null ? [] : [presetId, ...overIds];
}

function found<Row extends MarkRow | PresetRow | DeliveryRow>(
  ids: readonly number[],
  get: (id: number) => Row | null,
): Row[] {
  return [...new Set(ids)].flatMap((id) => get(id) ?? []);
}

/** Fonts of the photographer's own that lettering is set in, and whose licence lets them be handed on. */
async function fontsOf(
  marks: readonly MarkRow[],
  { tables, paths }: PackParts,
  files: Map<string, string | Uint8Array>,
): Promise<Bundle['fonts']> {
  const families = new Set(
    marks.flatMap(({ origin }) => (origin.kind === 'design' ? familiesOf(origin.design) : [])),
  );
  const fonts: Bundle['fonts'] = [];
  for (const { family, name, weight, italic } of tables.fonts.all()) {
    if (!families.has(family)) continue;
    const face = faceKey(family, { weight, italic });
    const bytes = await readFile(join(paths.fonts, `${face}.ttf`)).catch(() => null);
    if (!bytes || !mayBeHandedOn(bytes)) continue;
    const file = `fonts/${face.replace(/[^\w-]+/g, '-')}.ttf`;
    files.set(file, bytes);
    fonts.push({ family, name, weight, italic, file });
  }
  return fonts;
}

function familiesOf({ layers }: Design): string[] {
  return layers.flatMap((layer) =>
    layer.kind === 'lettering' ? [layer.lettering.font.family] : [],
  );
}
