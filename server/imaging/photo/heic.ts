import { fileURLToPath } from 'node:url';
import { KillableWorker } from '../childProcess.ts';
import { HEIC_TIMEOUT_MS } from '../limits.ts';
import { withPngMetadata } from '../metadata/pngChunks.ts';
import { sharp } from '../sharp.ts';

/** HEIC is decoded by a library compiled to WebAssembly, slow enough to need its own process. */

export interface HeicAnswer {
  readonly ok: boolean;
  readonly reason: string;
  readonly data: Uint8Array;
  readonly width: number;
  readonly height: number;
}

const processPath = fileURLToPath(new URL('./heicProcess.ts', import.meta.url));
let worker: KillableWorker<{ bytes: Uint8Array }, HeicAnswer> | null = null;

/** A factory of pipelines over the decoded, upright pixels, with the photo's colour profile. */
export async function decodeHeic(
  bytes: Uint8Array,
  icc: Buffer | null,
): Promise<() => ReturnType<typeof sharp>> {
  worker ??= new KillableWorker(processPath, HEIC_TIMEOUT_MS);
  const answer = await worker.ask({ bytes });
  if (!answer.ok) throw new Error(`invalid: ${answer.reason}`);
  const { data, width, height } = answer;
  const raw = { raw: { width, height, channels: 4 as const } };
  if (!icc) return () => sharp(data, raw).removeAlpha();
  // Raw pixels cannot carry a profile, an uncompressed PNG can; sharp then converts the colours.
  const png = await sharp(data, raw).removeAlpha().png({ compressionLevel: 0 }).toBuffer();
  const blocks = { exif: null, xmp: null, iptc: null, icc, densityPpi: null };
  const profiled = Buffer.concat(withPngMetadata(png, blocks));
  return () => sharp(profiled);
}
