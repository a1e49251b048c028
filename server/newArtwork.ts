import { basename, extname } from 'node:path';
import type { MarkBox } from '#core/contract/http';
import type { MarkOrigin } from '#core/contract/mark';
import type { ArtworkOrigin } from '#core/contract/origin';
import { NAME_MAX_LENGTH } from '#core/contract/preset';
import type { ArtworkRow } from './db/marks.ts';
import type { ImportedArtwork } from './imaging/raster/importArtwork.ts';

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
