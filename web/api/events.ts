import type { ServerEvents } from '#core/contract/http';

type Listeners = { [Name in keyof ServerEvents]: Set<(data: ServerEvents[Name]) => void> };

const listeners: Listeners = { run: new Set(), 'run-gone': new Set(), import: new Set() };
const reconnected = new Set<() => void>();
let source: EventSource | null = null;

/** Listens to one kind of server event; the answer stops listening. */
export function onServerEvent<Name extends keyof ServerEvents>(
  name: Name,
  listener: (data: ServerEvents[Name]) => void,
): () => void {
  open();
  listeners[name].add(listener);
  return () => listeners[name].delete(listener);
}

/** Events were missed while the line was down: whoever shows state must ask for it again. */
export function onReconnect(listener: () => void): () => void {
  reconnected.add(listener);
  return () => reconnected.delete(listener);
}

function open(): void {
  if (source) return;
  source = new EventSource('/api/events');
  let wasOpen = false;
  source.onopen = () => {
    if (wasOpen) for (const listener of reconnected) listener();
    wasOpen = true;
  };
  for (const name of Object.keys(listeners) as (keyof ServerEvents)[]) {
    source.addEventListener(name, (event: MessageEvent<string>) => {
      const data = JSON.parse(event.data) as never;
      for (const listener of listeners[name]) listener(data);
    });
  }
}
