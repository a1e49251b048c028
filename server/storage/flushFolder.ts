import { open } from 'node:fs/promises';

/** Flushes that have not begun yet, and those that are under way, by their folders. */
const waiting = new Map<string, Promise<void>>();
const running = new Map<string, Promise<void>>();

/**
 * The name of a file is only safe on disk once its folder is flushed; some systems cannot do that. Who asks
 * while a flush is waiting for the one before it shares it.
 */
export function flushFolder(folder: string): Promise<void> {
  const shared = waiting.get(folder);
  if (shared) return shared;
  const flush = (running.get(folder) ?? Promise.resolve()).then(() => {
    waiting.delete(folder);
    const flushing = flushNow(folder).finally(() => {
      if (running.get(folder) === flushing) running.delete(folder);
    });
    running.set(folder, flushing);
    return flushing;
  });
  waiting.set(folder, flush);
  return flush;
}

async function flushNow(folder: string): Promise<void> {
  const handle = await open(folder, 'r').catch(() => null);
  await handle?.sync().catch(() => undefined);
  await handle?.close();
}
