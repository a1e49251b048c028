import { onBack } from '../api/connection.ts';
import { onReconnect } from '../api/events.ts';

/**
 * Pictures that could not be loaded while the server was away, or slow: they are hidden instead of shown
 * broken, and loaded when it is back.
 */
const FAILED = 'failed-picture';
const FIRST_RETRY_MS = 2_000;
const LONGEST_RETRY_MS = 30_000;

const failed = new Set<HTMLImageElement>();
let retryMs = FIRST_RETRY_MS;
let timer: ReturnType<typeof setTimeout> | undefined;

/** For all pictures in the page, from the start. */
export function watchPictures(): void {
  // These events do not bubble, but they pass by the document on their way down.
  document.addEventListener('error', ({ target }) => take(target, true), { capture: true });
  document.addEventListener('load', ({ target }) => take(target, false), { capture: true });
  onBack(loadAgain);
  onReconnect(loadAgain);
}

/** For a picture that is not in the page: a canvas is drawn with it. */
export function keepTrying(image: HTMLImageElement): void {
  image.addEventListener('error', () => take(image, true));
  image.addEventListener('load', () => take(image, false));
}

/** It is not wanted any more. */
export function giveUp(image: HTMLImageElement): void {
  failed.delete(image);
}

function take(target: EventTarget | null, hasFailed: boolean): void {
  if (!(target instanceof HTMLImageElement)) return;
  target.classList.toggle(FAILED, hasFailed);
  if (!hasFailed) {
    failed.delete(target);
    retryMs = FIRST_RETRY_MS;
    return;
  }
  if (!new URL(target.src, location.href).pathname.startsWith('/api/')) return;
  failed.add(target);
  timer ??= setTimeout(() => {
    retryMs = Math.min(LONGEST_RETRY_MS, 2 * retryMs);
    loadAgain();
  }, retryMs);
}

function loadAgain(): void {
  clearTimeout(timer);
  timer = undefined;
  const again = [...failed];
  failed.clear();
  for (const image of again) {
    const isWanted = image.isConnected || image.parentNode === null;
    if (!isWanted) continue;
    const { src } = image;
    image.src = '';
    image.src = src;
  }
}
