import { failure, type Result } from '#core/result';
import { messageOf } from '../imageErrors.ts';
import { ProcessEnded } from './processPool.ts';

/** What goes wrong with a process that works on something, as a sentence about that. */

export const GB = 1_000_000_000;

export function isStorageError(error: unknown): boolean {
  return /^E[A-Z]+$/.test(String((error as NodeJS.ErrnoException | null)?.code ?? ''));
}

/** @param subject what the work was about, as a sentence begins */
export async function told<T>(subject: string, work: Promise<Result<T>>): Promise<Result<T>> {
  try {
    return await work;
  } catch (error) {
    return failure(sentenceOf(subject, error));
  }
}

export function sentenceOf(subject: string, error: unknown): string {
  if (!(error instanceof ProcessEnded)) {
    return `${subject} could not be worked on (${messageOf(error)}).`;
  }
  const { reason, limits, mostBytes } = error;
  switch (reason) {
    case 'time':
      return (
        `${subject} took longer than ${Math.round(limits.timeMs / 1_000)} s and was given up. ` +
        'If it lies on another disk or computer, that may not answer.'
      );
    case 'memory':
      return `${subject} needed more than ${mostBytes / GB} GB of memory and was stopped.`;
    case 'drawing':
      return (
        `The mark took longer than ${(limits.drawingMs ?? 0) / 1_000} s to draw and was stopped. ` +
        'Simplify its filters, patterns or repeated parts.'
      );
    case 'crash':
      return `${subject} ended the process that worked on it, twice; it may be damaged in an odd way.`;
    case 'aborted':
      return `${subject} was given up before it was finished.`;
    case 'closed':
      return `${subject} was not finished, since Light Crest is closing.`;
    default:
      throw new Error(`Unknown end ${reason satisfies never}`);
  }
}
