import { readFile } from 'node:fs/promises';
import { UNTOUCHED } from '#core/contract/delivery';
import { success, type Result } from '#core/result';
import type { MarkSource } from '../compose.ts';
import { probePhoto, type ProbedPhoto } from '../photo/probe.ts';
import { usableProfile, type Profile } from '../raster/inProfile.ts';
import type { Rasteriser } from '../raster/rasteriser.ts';
import { jpegFacts, otherProblem } from '../jpeg/jpegFacts.ts';
import { hasJpegTools, TOOLS_COMMAND } from '../untouched/jpegTools.ts';
import { proxyCopies, type ProxyCopies } from '../workingPhoto.ts';
import type { RenderJob } from './renderJob.ts';

/** What the outputs of a photo have in common. */
export interface OpenedPhoto {
  readonly job: RenderJob;
  readonly marks: readonly MarkSource[];
  readonly probed: ProbedPhoto;
  /** Of its colours, where an output may keep them. */
  readonly profile: Profile | null;
  /** Why its blocks cannot stay as they are, as the rest of a sentence; null: they can, or nobody asked. */
  readonly untouchedProblem: string | null;
  readonly rasteriser: Rasteriser;
  /** At working size, where that was kept. */
  readonly proxy: ProxyCopies | null;
}

export async function openPhoto(
  job: RenderJob,
  marks: readonly MarkSource[],
  rasteriser: Rasteriser,
): Promise<Result<OpenedPhoto>> {
  const probed = await probePhoto(job.source);
  if (!probed.ok) return probed;
  const { colours, icc } = probed.value;
  const rules = job.outputs.map(({ deliveryRule }) => deliveryRule);
  const isUntouched = rules.some(({ file }) => file.quality === UNTOUCHED);
  const keepsColours = isUntouched || rules.some(({ colour }) => colour === 'photo');
  const profile = keepsColours && colours === 'rgb' && icc ? await usableProfile(icc) : null;
  const untouchedProblem = isUntouched ? await problemOf(job.source, probed.value) : null;
  return success({
    ...{ job, marks, probed: probed.value, profile, untouchedProblem, rasteriser },
    proxy: job.proxy ? proxyCopies(job.proxy) : null,
  });
}

async function problemOf(path: string, { format }: ProbedPhoto): Promise<string | null> {
  if (format !== 'jpeg') return 'it is not a JPEG';
  if (!hasJpegTools()) return `this needs jpegtran, which "${TOOLS_COMMAND}" brings`;
  const jpeg = await readFile(path).catch(() => null);
  const facts = jpeg && jpegFacts(jpeg);
  return facts ? otherProblem(facts) : 'its headers cannot be followed';
}

/** What became of colours that an output cannot have, as a sentence; or null. */
export function coloursNote({ colours }: ProbedPhoto): string | null {
  if (colours === 'cmyk') return 'Its colours were CMYK, for printing, and became sRGB.';
  return colours === 'grey' ? 'It was grey, of one channel, and became sRGB of three.' : null;
}
