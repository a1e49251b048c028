import { basename, extname } from 'node:path';
import type { MarkBox } from '#core/contract/http';
import type { MarkOrigin } from '#core/contract/mark';
import type { ArtworkOrigin } from '#core/contract/origin';
import { NAME_MAX_LENGTH } from '#core/contract/preset';
import { failure, success, type Result } from '#core/result';
import type { ArtworkRow } from './db/markRows.ts';
import type { Imaging } from './imaging/pool/imaging.ts';
import type { PlainArtwork } from './imaging/raster/artwork.ts';
import type { ImportedArtwork } from './imaging/raster/importArtwork.ts';

/** Why a version is not kept, where another came first. */
export const CHANGED_MEANWHILE = 'It was changed in another window.';

/** A version of artwork that is not in the library yet. */
export interface NewArtwork {
  readonly row: ArtworkRow;
  readonly content: string | Uint8Array;
  /** Pixels that are kept beside outlines. */
  readonly pixels: Uint8Array | null;
}

export function newArtwork(
  { artwork, notes, origin }: Pick<ImportedArtwork, 'artwork' | 'notes' | 'origin'>,
  box: MarkBox | null,
): NewArtwork {
  if (artwork.kind === 'design') throw new Error('Layers are kept by the designs.');
  const { kind, natural, ink } = artwork;
  return {
    row: { kind, natural, ink, notes, origin, box, hasPixels: false, isPending: false },
    content: artwork.kind === 'svg' ? artwork.svg : artwork.png,
    pixels: null,
  };
}

/** How the artwork of a mark was made, also where it has become a layer since. */
export function artworkOrigin(origin: MarkOrigin): ArtworkOrigin {
  if (origin.kind !== 'design') return origin;
  const layers = origin.design.layers.filter((layer) => layer.kind === 'artwork');
  return layers.find((layer) => layer.origin.kind !== 'file')?.origin ?? { kind: 'file' };
}

/** What a mark is called that came as a file. */
export function nameFromFile(fileName: string): string {
  const stem = basename(fileName, extname(fileName)).replace(/[-_]+/g, ' ').trim();
  const name = stem.charAt(0).toUpperCase() + stem.slice(1);
  return name.slice(0, NAME_MAX_LENGTH) || 'Mark';
}

/**
 * Artwork that was made here.
 *
 * @param drawn an SVG, or the bytes of a PNG
 * @param pixels that are kept beside outlines
 */
export async function ownArtwork(
  drawn: string | Uint8Array,
  origin: ArtworkOrigin,
  pixels: Uint8Array | null,
  imaging: Imaging,
): Promise<Result<{ readonly artwork: PlainArtwork; readonly version: NewArtwork }>> {
  const bytes = typeof drawn === 'string' ? Buffer.from(drawn) : drawn;
  const imported = await imaging.importArtwork(bytes);
  if (!imported.ok) return imported;
  const { artwork } = imported.value;
  if (artwork.kind === 'design') return failure('Expected plain artwork, found layers.');
  const version = newArtwork({ artwork, origin, notes: [] }, null);
  return success({ artwork, version: { ...version, pixels } });
}
