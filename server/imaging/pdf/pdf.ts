import { fileURLToPath } from 'node:url';
import { failure, success, type Result } from '#core/result';
import { KillableWorker } from '../childProcess.ts';
import { messageOf } from '../imageErrors.ts';
import { PDF_TIMEOUT_MS } from '../limits.ts';

export type PdfRequest = { readonly bytes: Uint8Array } & (
  | { readonly do: 'count' }
  | {
      readonly do: 'draw';
      /** From 1. */
      readonly page: number;
      /** Null: as many pixels as a scanned page has, or enough for a drawn one. */
      readonly longSidePx: number | null;
      /** On white, or on nothing. */
      readonly onPaper: boolean;
    }
);

export type PdfAnswer =
  | { readonly ok: true; readonly pages: number; readonly picture: Uint8Array | null }
  | { readonly ok: false; readonly reason: string };

const processPath = fileURLToPath(new URL('./pdfProcess.ts', import.meta.url));
let worker: KillableWorker<PdfRequest, PdfAnswer> | null = null;

export function isPdf(bytes: Uint8Array): boolean {
  // Some programs write a few bytes before the header; readers look for it in the first kilobyte.
  return Buffer.from(bytes.subarray(0, 1_024)).includes('%PDF-');
}

export async function pdfPages(bytes: Uint8Array): Promise<Result<number>> {
  const answer = await asked({ do: 'count', bytes });
  return answer.ok ? success(answer.pages) : failure(answer.reason);
}

/** A page as PNG. */
export async function pdfPicture(
  bytes: Uint8Array,
  page: number,
  wish: { readonly longSidePx: number | null; readonly onPaper: boolean },
): Promise<Result<Buffer>> {
  const answer = await asked({ do: 'draw', bytes, page, ...wish });
  if (!answer.ok) return failure(answer.reason);
  return success(Buffer.from(answer.picture ?? []));
}

async function asked(request: PdfRequest): Promise<PdfAnswer> {
  worker ??= new KillableWorker(processPath, PDF_TIMEOUT_MS);
  try {
    const answer = await worker.ask(request);
    if (answer.ok) return answer;
    return { ok: false, reason: `The PDF could not be read: ${answer.reason}.` };
  } catch (error) {
    return { ok: false, reason: `The PDF could not be read: ${messageOf(error)}.` };
  }
}
