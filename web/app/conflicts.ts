import { ApiError, CHANGED_CODE } from '../api/client.ts';
import { ask } from '../ui/ask.ts';

/** Which of two states goes on: what is in this window, or what another one saved meanwhile. */
export type ConflictChoice = 'mine' | 'theirs';

/** Asks about what was changed in two windows. */
export async function chooseSide(text: string): Promise<ConflictChoice> {
  const given = await ask({
    ...{ title: 'Changed in two windows', text, mustAnswer: true },
    detail: 'Keep what is in this window in its place, or take over what was saved there.',
    answers: [
      { label: 'Take over theirs', kind: 'other' },
      { label: 'Keep mine', kind: 'main' },
    ],
  });
  return given?.index === 0 ? 'theirs' : 'mine';
}

/**
 * Saves a change made to a version. Where another was saved since, the photographer says which goes
 * on.
 *
 * @returns what the server has now, or null where the other one goes on
 */
export async function saveOn<T>(
  base: number,
  send: (base: number) => Promise<T>,
): Promise<T | null> {
  for (let version = base; ;) {
    try {
      return await send(version);
    } catch (error) {
      const isChanged = error instanceof ApiError && error.code === CHANGED_CODE;
      if (!isChanged) throw error;
      if ((await chooseSide(error.message)) === 'theirs') return null;
      version = Number(error.details.version);
    }
  }
}
