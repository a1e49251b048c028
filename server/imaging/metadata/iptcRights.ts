import { captionBlock, captionRecords } from './imageResources.ts';
import type { Rights } from './rights.ts';

/**
 * By-line and copyright notice in the caption record (IPTC-IIM 4.2, datasets 2:80 and 2:116). The record
 * says that it is UTF-8 (1:90); what was said in another way before is brought over.
 */

const TAG_MARKER = 0x1c;
const ENVELOPE = 1;
const APPLICATION = 2;
const CHARACTER_SET = 90;
const BY_LINE = 80;
const COPYRIGHT_NOTICE = 116;
/** ISO 2022 for UTF-8. */
const UTF_8 = Buffer.from([0x1b, 0x25, 0x47]);
/** Longest values, bytes: the standard's limits are 32 and 128, which no reader holds to. */
const MOST_BYTES = 2_000;
/** A size field with its first bit set is the size of the size; such long datasets are no text. */
const EXTENDED = 0x8000;

interface Dataset {
  readonly record: number;
  readonly number: number;
  readonly value: Buffer;
}

/** @param block an APP13 payload with the caption record alone, or null for a new one */
export function withIptcRights(
  block: Uint8Array | null,
  { artist, copyright }: Pick<Rights, 'artist' | 'copyright'>,
): Uint8Array | null {
  const texts = new Map<number, string>();
  if (artist !== null) texts.set(BY_LINE, artist);
  if (copyright !== null) texts.set(COPYRIGHT_NOTICE, copyright);
  if (texts.size === 0) return block;
  const old = block ? datasetsOf(captionRecords(block)) : [];
  const isUtf8 = old.some(
    ({ record, number, value }) =>
      record === ENVELOPE && number === CHARACTER_SET && value.equals(UTF_8),
  );
  const kept = old
    .filter(({ record, number }) => !(record === ENVELOPE && number === CHARACTER_SET))
    .filter(({ record, number }) => !(record === APPLICATION && texts.has(number)))
    .map((dataset) => (isUtf8 ? dataset : inUtf8(dataset)));
  const fresh = [...texts].map(([number, text]): Dataset => ({
    ...{ record: APPLICATION, number, value: cut(text) },
  }));
  const all = [
    { record: ENVELOPE, number: CHARACTER_SET, value: UTF_8 },
    ...kept.filter(({ record }) => record === ENVELOPE),
    ...[...kept.filter(({ record }) => record !== ENVELOPE), ...fresh].sort(
      (a, b) => a.record - b.record || a.number - b.number,
    ),
  ];
  return captionBlock(Buffer.concat(all.map(written)));
}

function datasetsOf(records: Buffer): Dataset[] {
  const datasets: Dataset[] = [];
  let at = 0;
  while (at + 5 <= records.length && records[at] === TAG_MARKER) {
    const size = records.readUInt16BE(at + 3);
    const end = at + 5 + size;
    if (size >= EXTENDED || end > records.length) break;
    const value = records.subarray(at + 5, end);
    datasets.push({ record: records[at + 1], number: records[at + 2], value });
    at = end;
  }
  return datasets;
}

function written({ record, number, value }: Dataset): Buffer {
  const head = Buffer.from([TAG_MARKER, record, number, 0, 0]);
  head.writeUInt16BE(value.length, 3);
  return Buffer.concat([head, value]);
}

/** Programs that named no character set wrote UTF-8 or the Latin one of their time. */
function inUtf8(dataset: Dataset): Dataset {
  const { value } = dataset;
  const text = value.toString('utf8');
  const isUtf8 = Buffer.from(text, 'utf8').equals(value);
  return isUtf8 ? dataset : { ...dataset, value: Buffer.from(value.toString('latin1'), 'utf8') };
}

/** A letter is not cut in the middle. */
function cut(text: string): Buffer {
  let letters = [...text];
  while (Buffer.byteLength(letters.join('')) > MOST_BYTES) letters = letters.slice(0, -1);
  return Buffer.from(letters.join(''), 'utf8');
}
