import type { MetadataRule } from '#core/contract/delivery';
import type { MetadataBlocks } from '../metadata/blocks.ts';
import { metadataSegments } from '../metadata/jpegSegments.ts';
import { rightsOfRule, saysAnything } from '../metadata/rights.ts';
import { endOfImage, headers, isMetadata, type JpegSegment } from '../jpeg/jpegFacts.ts';

/** What stands before the picture of a JPEG whose blocks stay as they are. */

const APP0 = 0xe0;
const APP1 = 0xe1;
const APP2 = 0xe2;
const APP13 = 0xed;
const APP14 = 0xee;
const COMMENT = 0xfe;
/** Of a JFIF segment, up to its thumbnail. */
const JFIF_BYTES = 14;
const UNITS_PER_INCH = 1;
const PICTURE = Buffer.from([0xff, 0xd8, 0xff]);

/** @param blocks what the rule makes of the photo's metadata @returns segments, in order */
export function untouchedSegments(
  own: readonly JpegSegment[],
  blocks: MetadataBlocks,
  rule: MetadataRule,
  dpi: number | null,
): Buffer[] {
  const jfif = own.filter(isJfif).slice(0, 1);
  const keptCaption = keepsCaption(own, rule) ? own.filter(isCaption) : null;
  const others = own.filter((segment) => {
    if (segment.marker === APP14) return true;
    return rule.keep === 'all' && isOther(segment, rule);
  });
  return [
    ...jfif.map((segment) => segmentBytes(withoutThumbnail(segment, dpi))),
    ...metadataSegments(keptCaption ? { ...blocks, iptc: null } : blocks),
    ...(keptCaption ?? []).map(segmentBytes),
    ...others.map(segmentBytes),
  ];
}

/** A JPEG in parts. */
export interface JpegParts {
  /** Its headers, up to the first scan or with that one's own. */
  readonly head: Buffer;
  /** All else. What may follow the picture is left out: often another, without the mark. */
  readonly picture: readonly Uint8Array[];
}

export function partsOf(jpeg: Buffer): JpegParts {
  let at = 2;
  for (const { end } of headers(jpeg)) at = end;
  return { head: jpeg.subarray(0, at), picture: [jpeg.subarray(at, endOfImage(jpeg, at))] };
}

/** A JPEG with other metadata. */
export function withSegments(
  { head, picture }: JpegParts,
  segments: readonly Buffer[],
): Uint8Array[] {
  const tables: Buffer[] = [];
  let at = 2;
  for (const { marker, end } of headers(head)) {
    if (!isMetadata(marker)) tables.push(head.subarray(at, end));
    at = end;
  }
  return [head.subarray(0, 2), ...segments, ...tables, head.subarray(at), ...picture];
}

const starts = (payload: Buffer, text: string): boolean =>
  payload.toString('latin1', 0, text.length) === text;

const isJfif = ({ marker, payload }: JpegSegment): boolean =>
  marker === APP0 && starts(payload, 'JFIF\0') && payload.length >= JFIF_BYTES;

const isCaption = ({ marker }: JpegSegment): boolean => marker === APP13;

/** The caption with all that lies beside it stays, unless that holds a thumbnail or other rights are asked for. */
function keepsCaption(own: readonly JpegSegment[], rule: MetadataRule): boolean {
  if (rule.keep !== 'all' || saysAnything(rightsOfRule(rule))) return false;
  return !own.some((segment) => isCaption(segment) && segment.payload.includes(PICTURE));
}

/** What no block stands for. A segment with a picture in it is left out, since that has no mark. */
function isOther({ marker, payload }: JpegSegment, { location }: MetadataRule): boolean {
  if (marker === COMMENT) return true;
  if (marker === APP0 || marker === APP13 || payload.includes(PICTURE)) return false;
  if (marker === APP2) return !starts(payload, 'ICC_PROFILE\0') && !starts(payload, 'MPF\0');
  if (marker !== APP1) return true;
  if (starts(payload, 'Exif\0') || starts(payload, 'http://ns.adobe.com/xap/1.0/\0')) return false;
  // A long packet goes on in segments of its own, which may say where the photo was taken.
  return location === 'keep' || !/GPS|latitude|longitude/i.test(payload.toString('latin1'));
}

function withoutThumbnail({ marker, payload }: JpegSegment, dpi: number | null): JpegSegment {
  const bare = Buffer.from(payload.subarray(0, JFIF_BYTES));
  bare.writeUInt16BE(0, JFIF_BYTES - 2);
  if (dpi !== null) {
    bare.writeUInt8(UNITS_PER_INCH, 7);
    bare.writeUInt16BE(dpi, 8);
    bare.writeUInt16BE(dpi, 10);
  }
  return { marker, payload: bare };
}

export function segmentBytes({ marker, payload }: JpegSegment): Buffer {
  const head = Buffer.from([0xff, marker, 0, 0]);
  head.writeUInt16BE(payload.length + 2, 2);
  return Buffer.concat([head, payload]);
}
