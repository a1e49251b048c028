import { readFileSync } from 'node:fs';
import type { Box } from '#core/placement/geometry';
import type { MarkSource } from '../compose.ts';

/** Where a version of a mark's artwork lies; small enough to be sent to another process. */
export interface ArtworkFile {
  readonly path: string;
  readonly kind: 'svg' | 'png';
  readonly natural: Box;
  readonly ink: Box;
}

const loaded = new Map<string, MarkSource>();

/** Artwork files never change once written, so each is read once a process. */
export function loadArtwork({ path, kind, natural, ink }: ArtworkFile): MarkSource {
  const known = loaded.get(path);
  if (known) return known;
  const bytes = readFileSync(path);
  const source: MarkSource = {
    key: path,
    artwork:
      kind === 'svg'
        ? { kind, natural, ink, svg: bytes.toString('utf8') }
        : { kind, natural, ink, png: bytes },
  };
  loaded.set(path, source);
  return source;
}
