import type { EncodingRule } from '#core/contract/delivery';
import { bestQuality } from '#core/delivery/bestQuality';
import type { WrittenFile } from './writer.ts';

/** A file of the quality that was asked for, or of the best that a limit of bytes leaves room for. */
export async function withinBytes(
  { quality, max_bytes: maxBytes }: EncodingRule,
  write: (quality: number) => Promise<WrittenFile>,
): Promise<WrittenFile> {
  if (maxBytes === null) return write(quality);
  const { file, fits, ...found } = await bestQuality(maxBytes, async (tried) => {
    const written = await write(tried);
    return { written, bytes: written.parts.reduce((sum, part) => sum + part.length, 0) };
  });
  if (fits) return file.written;
  const note =
    `At quality ${found.quality} it still has ${kilobytes(file.bytes)}, ` +
    `more than the ${kilobytes(maxBytes)} asked for.`;
  return { ...file.written, note: [note, file.written.note].filter(Boolean).join(' ') };
}

const kilobytes = (bytes: number): string => `${Math.ceil(bytes / 1_000).toLocaleString('en')} KB`;
