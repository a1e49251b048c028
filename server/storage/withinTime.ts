/** A disk or share did not answer in the time that was allowed. */
export class NoAnswer extends Error {
  readonly code = 'ETIMEDOUT';
}

/**
 * Gives up waiting for a file system after a time. What was begun may still end later: it must do no
 * harm then.
 */
export async function withinTime<T>(
  timeMs: number,
  where: string,
  work: () => Promise<T>,
): Promise<T> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, fail) => {
    timer = setTimeout(() => fail(new NoAnswer(`${where} does not answer`)), timeMs);
  });
  try {
    return await Promise.race([work(), late]);
  } finally {
    clearTimeout(timer);
  }
}
