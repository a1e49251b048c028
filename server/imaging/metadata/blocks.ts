import type { MetadataRule } from '#core/contract/delivery';
import type { Size } from '#core/placement/geometry';
import { sharp } from '../sharp.ts';
import { exifForOutput, orientationOnly, UPRIGHT } from './exifBlock.ts';
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

export interface BlocksWish {
  readonly frame: Size;
  /** Resolution tag; null: the source's. */
  readonly dpi?: number | null;
  /** What the source says of its rights, for a rule that keeps only those. */
  readonly own?: Rights | null;
  /** Profile of the output's colours; null: sRGB. */
  readonly icc?: Uint8Array | null;
  /** How the pixels are turned, where they stay as they were stored. */
  readonly storedAs?: number;
}

/**
 * The blocks for an output. Colours are always named, whatever else is kept: without a profile,
 * wide-gamut screens show sRGB numbers too strongly.
 */
export async function outputBlocks(
  source: SourceMetadata,
  rule: MetadataRule,
  wish: BlocksWish,
): Promise<MetadataBlocks> {
  const { own = null } = wish;
  const kept = await keptBlocks(source, rule, wish);
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
  { frame, dpi = null, icc: own = null, storedAs }: BlocksWish,
): Promise<MetadataBlocks> {
  const icc = own ?? (await srgbProfile());
  const turned = storedAs && storedAs !== UPRIGHT ? orientationOnly(storedAs) : null;
  if (keep !== 'all') return { exif: turned, xmp: null, iptc: null, icc, densityPpi: dpi };
  const isSrgb = own === null;
  const hasPosition = location === 'keep';
  const isStored = storedAs !== undefined;
  const facts = { ...frame, hasPosition, dpi, isSrgb, isStored };
  return {
    exif: (source.exif && exifForOutput(source.exif, facts)) ?? turned,
    xmp: source.xmp ? xmpForOutput(source.xmp.toString('utf8'), hasPosition, isStored) : null,
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
