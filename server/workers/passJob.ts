import type { Result } from '#core/result';
import type { ArtworkFile } from '../imaging/raster/loadArtwork.ts';
import type { RenderedOutput, RenderJob } from '../imaging/pass/renderJob.ts';
import { temporaryName } from '../storage/atomicWrite.ts';
import type { Content } from './contents.ts';
import type { SharedPlace } from './roots.ts';

/** A photo with the outputs that are wanted of it, as it goes to another machine: no path of this one. */
export interface PassJob {
  /** Of the job with which it was put into the queue: another each time. */
  readonly serial: string;
  /** Stem of its temporary files. */
  readonly stem: string;
  readonly job: Omit<RenderJob, 'source' | 'proxy' | 'outputs'>;
  readonly source: SharedPlace;
  /** Of the source as the server sees it. */
  readonly sourceBytes: number;
  readonly proxy: (Content & { readonly width: number; readonly height: number }) | null;
  readonly outputs: readonly PassOutput[];
  readonly marks: readonly CarriedMark[];
  readonly pixels: number;
}

export type PassOutput = Omit<RenderJob['outputs'][number], 'temporaryPath'> & {
  readonly folder: SharedPlace;
};

/** Artwork with the fonts that it may name. */
export type CarriedMark = Omit<ArtworkFile, 'path' | 'fontFolders'> & {
  readonly artwork: Content;
  /** Null: it is no design. */
  readonly fonts: readonly CarriedFont[] | null;
};

export interface CarriedFont extends Content {
  readonly family: string;
  /** File name below its family. */
  readonly file: string;
}

/** What has become of a pass. */
export type PassEnd =
  | {
      readonly kind: 'made';
      readonly worker: string;
      readonly stem: string;
      readonly serial: string;
      /** The number of the lease under which it was made. */
      readonly fence: number;
      readonly results: readonly Result<RenderedOutput>[];
    }
  /** It says nothing of the photo: this worker cannot make it. */
  | { readonly kind: 'refused'; readonly worker: string; readonly reason: string };

/**
 * The temporary file of an output, in the folder that the output goes to. Serial and fence are in it, so
 * that a worker which was given up can never write to the file of the one that took over.
 */
export function fencedName(
  { stem, serial }: Pick<PassJob, 'stem' | 'serial'>,
  output: number,
  fence: number,
): string {
  return temporaryName(`${stem}.${output}-${serial}.${fence}`);
}
