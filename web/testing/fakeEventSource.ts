import type { ServerEvents } from '#core/contract/http';

/** The server's events, told by tests. */
export class FakeEventSource extends EventTarget {
  static readonly CLOSED = 2;
  static all: FakeEventSource[] = [];
  readyState = 1;
  onopen: (() => void) | null = null;
  onerror: (() => void) | null = null;

  constructor(readonly url: string) {
    super();
    FakeEventSource.all.push(this);
  }

  static get last(): FakeEventSource {
    const last = FakeEventSource.all.at(-1);
    if (!last) throw new Error('Nobody listens to the server.');
    return last;
  }

  tell<Name extends keyof ServerEvents>(name: Name, data: ServerEvents[Name]): void {
    this.dispatchEvent(new MessageEvent(name, { data: JSON.stringify(data) }));
  }

  close(): void {
    this.readyState = FakeEventSource.CLOSED;
  }
}
