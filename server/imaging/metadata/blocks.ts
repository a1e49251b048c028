import type { MetadataRule } from '#core/contract/delivery';
import type { Size } from '#core/placement/geometry';
import { sharp } from '../sharp.ts';
import { exifForOutput } from './exifBlock.ts';
import { iptcOnly } from './imageResources.ts';
import { withExifRights } from './exifRights.ts';
import { withIptcRights } from './iptcRights.ts';
import { mergedRights, rightsOfRule, saysAnything, type Rights } from './rights.ts';
import { xmpForOutput } from './xmpPacket.ts';
import { withXmpRights } from './xmpRights.ts';

/** Metadata as it goes into an output, independent of the file type. */
export interface MetadataBlocks {
  /** A TIFF structure without its `Exif` preamble. */
  readonly exif: Uint8Array | null;
  readonly xmp: string | null;
  /** An APP13 payload with the caption record alone. */
  readonly iptc: Uint8Array | null;
  readonly icc: Uint8Array | null;
  readonly densityPpi: number | null;
}

/** What is read of a source; the fields of sharp's metadata that matter here. */
export interface SourceMetadata {
  readonly exif?: Buffer | undefined;
  readonly xmp?: Buffer | undefined;
  readonly iptc?: Buffer | undefined;
  readonly density?: number | undefined;
}

/**
 * The blocks for an output of `frame`. Colours are always named, whatever else is kept: without a
 * profile, wide-gamut screens show sRGB numbers too strongly.
 */
export async function outputBlocks(
  source: SourceMetadata,
  rule: MetadataRule,
  frame: Size,
  /** Resolution tag; null: the source's. */
  dpi: number | null = null,
  /** What the source says of its rights, for a rule that keeps only those. */
  own: Rights | null = null,
): Promise<MetadataBlocks> {
  const kept = await keptBlocks(source, rule, frame, dpi);
  const given = rightsOfRule(rule);
  const rights = own === null ? given : mergedRights(given, own);
  if (!saysAnything(rights)) return kept;
  return {
    ...kept,
    exif: withExifRights(kept.exif, rights),
    xmp: withXmpRights(kept.xmp, rights),
    iptc: withIptcRights(kept.iptc, rights),
  };
}

async function keptBlocks(
  source: SourceMetadata,
  { keep, location }: MetadataRule,
  frame: Size,
  dpi: number | null,
): Promise<MetadataBlocks> {
  const icc = await srgbProfile();
  if (keep !== 'all') return { exif: null, xmp: null, iptc: null, icc, densityPpi: dpi };
  const hasPosition = location === 'keep';
  return {
    exif: source.exif ? exifForOutput(source.exif, { ...frame, hasPosition, dpi }) : null,
    xmp: source.xmp ? xmpForOutput(source.xmp.toString('utf8'), hasPosition) : null,
    iptc: source.iptc ? iptcOnly(source.iptc) : null,
    icc,
    densityPpi: dpi ?? source.density ?? null,
  };
}

let profile: Promise<Uint8Array | null> | null = null;

/** The small sRGB profile that the imaging library ships, taken from a picture made with it. */
function srgbProfile(): Promise<Uint8Array | null> {
  profile ??= sharp({ create: { width: 1, height: 1, channels: 3, background: '#000' } })
    .withIccProfile('srgb')
    .png()
    .toBuffer()
    .then((png) => sharp(png).metadata())
    .then((metadata) => metadata.icc ?? null);
  return profile;
}
