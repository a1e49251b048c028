import { readFileSync } from 'node:fs';
import { LRUCache } from 'lru-cache';
import { markModelOf } from '#core/mark/markFile';
import type { Box } from '#core/placement/geometry';
import type { Artwork } from './artwork.ts';
import type { MarkSource } from '../compose.ts';

/** Where a version of a mark's artwork lies; small enough to be sent to another process. */
export interface ArtworkFile {
  readonly path: string;
  readonly kind: 'svg' | 'png';
  readonly natural: Box;
  readonly ink: Box;
  /** For a mark that was composed: where its fonts are. The file then holds its model. */
  readonly fontFolders: readonly string[] | null;
}

/** Marks in use at one time; a mark that is being composed has a new version every few seconds. */
const KEPT_MARKS = 40;

const loaded = new LRUCache<string, MarkSource>({ max: KEPT_MARKS });

/** Artwork files never change once written, so each is read once while it is in use. */
export function loadArtwork(file: ArtworkFile): MarkSource {
  const { path } = file;
  const known = loaded.get(path);
  if (known) return known;
  const source: MarkSource = { key: path, artwork: artworkIn(file, readFileSync(path)) };
  loaded.set(path, source);
  return source;
}

function artworkIn({ kind, natural, ink, fontFolders }: ArtworkFile, bytes: Buffer): Artwork {
  if (kind === 'png') return { kind, natural, ink, png: bytes };
  const svg = bytes.toString('utf8');
  if (fontFolders === null) return { kind, natural, ink, svg };
  const model = markModelOf(svg);
  if (!model.ok || model.value?.origin.kind !== 'design') return { kind, natural, ink, svg };
  const { origin, parts } = model.value;
  return { kind: 'design', natural, ink, design: origin.design, parts, fontFolders };
}
