import type { Tables } from '../db/tables.ts';
import type { ArtworkFile } from '../imaging/raster/loadArtwork.ts';
import type { Marks } from '../marks.ts';

/** Artwork that comes with a job, each version once; marks of the job name it by its place. */
export class ArtworkList {
  readonly files: ArtworkFile[] = [];
  private readonly places = new Map<string, number>();

  constructor(private readonly parts: { readonly tables: Tables; readonly marks: Marks }) {}

  /** @returns null where the mark is not there any more */
  placeOf(markId: number, version: number): number | null {
    const key = `${markId}.${version}`;
    const known = this.places.get(key);
    if (known !== undefined) return known;
    const mark = this.parts.tables.marks.get(markId);
    if (!mark) return null;
    this.places.set(key, this.files.length);
    this.files.push(this.parts.marks.artworkFile(mark, version));
    return this.files.length - 1;
  }
}

export const MARK_IS_GONE = 'The mark is not there any more.';
