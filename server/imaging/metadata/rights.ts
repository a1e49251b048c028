import exifr from 'exifr';
import type { MetadataRule } from '#core/contract/delivery';
import type { SourceMetadata } from './blocks.ts';
import { withoutPreamble } from './exifBlock.ts';
import { iptcOnly } from './imageResources.ts';
import { withJpegMetadata } from './jpegSegments.ts';

/** Who made a photo and what may be done with it; null: nothing is said. */
export interface Rights {
  readonly artist: string | null;
  readonly copyright: string | null;
  /** Usage terms, as a text. */
  readonly usage: string | null;
  /** Address of a page that says them. */
  readonly rightsUrl: string | null;
}

/** What a delivery writes whatever else is kept. */
export function rightsOfRule({ artist, copyright, usage, rights_url }: MetadataRule): Rights {
  return { artist, copyright, usage, rightsUrl: rights_url };
}

export function saysAnything(rights: Rights): boolean {
  return Object.values(rights).some((value) => value !== null);
}

/** The first where it says something, else the second. */
export function mergedRights(first: Rights, second: Rights): Rights {
  return {
    artist: first.artist ?? second.artist,
    copyright: first.copyright ?? second.copyright,
    usage: first.usage ?? second.usage,
    rightsUrl: first.rightsUrl ?? second.rightsUrl,
  };
}

const NOTHING: Rights = { artist: null, copyright: null, usage: null, rightsUrl: null };

/**
 * What a photo says itself: XMP before IPTC before EXIF, as they are kept up to date by most programs.
 *
 * @param path is only read where the file type keeps its notes outside of blocks (TIFF)
 */
export async function rightsOfPhoto(path: string, source: SourceMetadata): Promise<Rights> {
  try {
    const { ifd0, iptc, dc, xmpRights } = await saidBy(path, source);
    return {
      artist: fromXml(dc?.creator) ?? fromBytes(iptc?.Byline) ?? fromBytes(ifd0?.Artist),
      copyright:
        fromXml(dc?.rights) ?? fromBytes(iptc?.CopyrightNotice) ?? fromBytes(ifd0?.Copyright),
      usage: fromXml(xmpRights?.UsageTerms),
      rightsUrl: fromXml(xmpRights?.WebStatement),
    };
  } catch {
    // A photo with broken notes is still a photo.
    return NOTHING;
  }
}

/** What a photo is called and where it was taken, by XMP and IPTC. */
export interface Described {
  readonly place: string | null;
  readonly caption: string | null;
  readonly artist: string | null;
}

const NOTHING_DESCRIBED: Described = { place: null, caption: null, artist: null };

/** @param path as for `rightsOfPhoto` */
export async function describedBy(path: string, source: SourceMetadata): Promise<Described> {
  try {
    const { ifd0, iptc, dc, photoshop, Iptc4xmpCore: core } = await saidBy(path, source);
    return {
      place:
        fromXml(core?.Location) ??
        fromBytes(iptc?.Sublocation) ??
        fromXml(photoshop?.City) ??
        fromBytes(iptc?.City),
      caption: fromXml(dc?.description) ?? fromBytes(iptc?.Caption),
      artist: fromXml(dc?.creator) ?? fromBytes(iptc?.Byline) ?? fromBytes(ifd0?.Artist),
    };
  } catch {
    return NOTHING_DESCRIBED;
  }
}

async function saidBy(
  path: string,
  source: SourceMetadata,
): Promise<Readonly<Record<string, Said | undefined>>> {
  const hasBlocks = Boolean(source.exif ?? source.xmp ?? source.iptc);
  const found = await exifr.parse(hasBlocks ? jpegOf(source) : path, {
    ...{ mergeOutput: false, reviveValues: false, xmp: { parse: true }, iptc: true },
    ...{ ifd0: { pick: ['Artist', 'Copyright'] }, exif: false, gps: false, ifd1: false },
  });
  return (found ?? {}) as Record<string, Said | undefined>;
}

/** The reader takes files, not blocks, and not of every type: a JPEG of nothing but them. */
function jpegOf({ exif, xmp, iptc }: SourceMetadata): Buffer {
  const blocks = {
    exif: exif ? withoutPreamble(exif) : null,
    xmp: xmp?.toString('utf8') ?? null,
    iptc: iptc ? iptcOnly(iptc) : null,
    icc: null,
    densityPpi: null,
  };
  return Buffer.concat(withJpegMetadata(Buffer.from(NO_PICTURE), blocks));
}

const NO_PICTURE = [0xff, 0xd8, 0xff, 0xd9];

type Said = Readonly<Record<string, unknown>>;

/** Texts come plain, by language, or as lists. */
function textOf(value: unknown): string | null {
  if (Array.isArray(value)) return value.map(textOf).filter(Boolean).join(', ') || null;
  if (value !== null && typeof value === 'object' && 'value' in value) return textOf(value.value);
  return typeof value === 'string' ? value.replace(/\0/g, '').trim() || null : null;
}

const ENTITIES: Readonly<Record<string, string>> = {
  ...{ amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" },
};

/** The reader leaves the entities of XML as they are. */
function fromXml(value: unknown): string | null {
  const text = textOf(value);
  return text?.replace(/&(amp|lt|gt|quot|apos);/g, (_, name: string) => ENTITIES[name]) ?? null;
}

const LAST_OF_LATIN = '\u00ff';

/** The reader takes bytes for Latin letters; most programs write UTF-8. */
function fromBytes(value: unknown): string | null {
  const text = textOf(value);
  if (text === null || [...text].some((letter) => letter > LAST_OF_LATIN)) return text;
  const bytes = Buffer.from(text, 'latin1');
  const decoded = bytes.toString('utf8');
  return Buffer.from(decoded, 'utf8').equals(bytes) ? decoded : text;
}
