import type { ServerEvents } from '#core/contract/http';
import { noteAnswer, noteAway, onBack } from './connection.ts';

type Listeners = { [Name in keyof ServerEvents]: Set<(data: ServerEvents[Name]) => void> };

const listeners: Listeners = {
  run: new Set(),
  'run-gone': new Set(),
  import: new Set(),
  photos: new Set(),
  changed: new Set(),
};
const reconnected = new Set<() => void>();
let source: EventSource | null = null;
let retrying: ReturnType<typeof setTimeout> | undefined;

/** After this the page goes on without the stream; who asked meanwhile asks again once it is there. */
const PATIENCE_MS = 1_000;

/** A stream that was refused is not opened again by the browser itself. */
const RETRY_MS = 2_000;

/** Listens to one kind of server event; the answer stops listening. */
export function onServerEvent<Name extends keyof ServerEvents>(
  name: Name,
  listener: (data: ServerEvents[Name]) => void,
): () => void {
  if (!source) open(false);
  listeners[name].add(listener);
  return () => listeners[name].delete(listener);
}

/** Events were missed while the line was down: whoever shows state must ask for it again. */
export function onReconnect(listener: () => void): () => void {
  reconnected.add(listener);
  return () => reconnected.delete(listener);
}

let opening: Promise<void> | null = null;

/** Resolves once events come in, or do not for now: what is asked for after that misses none of them. */
export function listening(): Promise<void> {
  if (!source) open(false);
  return opening ?? Promise.resolve();
}

function open(wasOpen: boolean): void {
  const stream = new EventSource('/api/events');
  source = stream;
  let isAgain = wasOpen;
  let settle = (): void => undefined;
  const goOn = (): void => {
    isAgain = true;
    settle();
  };
  opening = new Promise((resolve) => (settle = resolve));
  setTimeout(goOn, PATIENCE_MS);
  stream.onopen = () => {
    noteAnswer();
    if (isAgain) for (const listener of reconnected) listener();
    goOn();
  };
  stream.onerror = () => {
    noteAway();
    goOn();
    if (stream.readyState !== EventSource.CLOSED || source !== stream) return;
    stream.close();
    clearTimeout(retrying);
    retrying = setTimeout(() => open(isAgain), RETRY_MS);
  };
  for (const name of Object.keys(listeners) as (keyof ServerEvents)[]) {
    stream.addEventListener(name, (event: MessageEvent<string>) => {
      const data = JSON.parse(event.data) as never;
      for (const listener of listeners[name]) listener(data);
    });
  }
}

// A request was answered: the stream need not wait for its own next try.
onBack(() => {
  if (source?.readyState !== EventSource.CLOSED) return;
  clearTimeout(retrying);
  open(true);
});
