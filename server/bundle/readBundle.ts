import { bundleSchema, BUNDLE_NOTE, type Bundle } from '#core/contract/bundle';
import { validate } from '#core/contract/explain';
import { failure, success, type Result } from '#core/result';
import { Unzipped } from '../backup/unzipped.ts';
import { MAX_ARTWORK_BYTES } from '../imaging/limits.ts';
import { MAX_FONT_BYTES } from '../lettering/fonts.ts';

/** A bundle as it was read: what it says, and the files that it names. */
export interface ReadBundle {
  readonly bundle: Bundle;
  readonly files: ReadonlyMap<string, Uint8Array>;
}

const MOST_NOTE_BYTES = 20_000_000;
/** All files of a bundle together: they are held in memory until they are taken. */
export const MAX_BUNDLE_BYTES = 300_000_000;

/** Reads a ZIP from outside, whole or not at all. Files that the note does not name are passed over. */
export async function readBundle(path: string): Promise<Result<ReadBundle>> {
  let zip: Unzipped;
  try {
    zip = await Unzipped.open(path);
  } catch {
    return failure('Expected a bundle (*.crest.zip), found a file that is no ZIP.');
  }
  try {
    return await read(zip);
  } catch (error) {
    return failure(`The bundle cannot be read (${(error as Error).message}).`);
  } finally {
    zip.close();
  }
}

async function read(zip: Unzipped): Promise<Result<ReadBundle>> {
  const files = new Map<string, Uint8Array>();
  let note: string | null = null;
  let total = 0;
  for await (const entry of zip.entries()) {
    const { fileName: name } = entry;
    const isMark = name.startsWith('marks/');
    if (!isMark && !name.startsWith('fonts/') && name !== BUNDLE_NOTE) continue;
    const most =
      name === BUNDLE_NOTE ? MOST_NOTE_BYTES : isMark ? MAX_ARTWORK_BYTES : MAX_FONT_BYTES;
    const bytes = await zip.bytes(entry, most);
    total += bytes.length;
    if (total > MAX_BUNDLE_BYTES) {
      return failure(`Expected a bundle of at most ${MAX_BUNDLE_BYTES / 1e6} MB.`);
    }
    if (name === BUNDLE_NOTE) note = bytes.toString('utf8');
    else files.set(name, bytes);
  }
  if (note === null) return failure(`Expected a bundle, found a ZIP without ${BUNDLE_NOTE}.`);
  let value: unknown = null;
  try {
    value = JSON.parse(note);
  } catch {
    // The sentence of the check says what was expected.
  }
  const bundle = validate(bundleSchema, value);
  if (!bundle.ok) return failure(`${BUNDLE_NOTE}: ${bundle.reason}`);
  const problem = problemOf(bundle.value, files);
  return problem === null ? success({ bundle: bundle.value, files }) : failure(problem);
}

/** What a bundle names and does not have, or null. */
function problemOf(bundle: Bundle, files: ReadonlyMap<string, Uint8Array>): string | null {
  const marks = new Set(bundle.marks.map(({ key }) => key));
  const presets = new Set(bundle.presets.map(({ key }) => key));
  for (const { name, file } of [...bundle.marks, ...bundle.fonts]) {
    if (!files.has(file)) return `The bundle names ${file} for ${name}, and does not have it.`;
  }
  for (const { name, mark } of bundle.presets) {
    if (!marks.has(mark)) return `The bundle does not have the mark of the preset ${name}.`;
  }
  for (const { name, presets: own } of bundle.deliveries) {
    if (own.some((key) => !presets.has(key))) {
      return `The bundle does not have a preset of the delivery ${name}.`;
    }
  }
  return null;
}

/** A file of a bundle as text. */
export function textOf(files: ReadonlyMap<string, Uint8Array>, file: string): string {
  return Buffer.from(files.get(file) ?? []).toString('utf8');
}
