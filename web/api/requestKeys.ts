/**
 * Keys of requests that make something. The same wish, sent again while it is on its way or after its
 * answer was lost, has the same key, so the server makes one of it; once it is answered, the next is
 * another.
 */
export interface RequestKey {
  readonly value: string;
  readonly done: () => void;
}

const open = new Map<string, string>();

/** @returns null for what has no text to be known by, such as a file */
export function requestKey(path: string, body: BodyInit | undefined | null): RequestKey | null {
  if (body !== undefined && typeof body !== 'string') return null;
  const wish = `${path} ${body ?? ''}`;
  const value = open.get(wish) ?? crypto.randomUUID();
  open.set(wish, value);
  return { value, done: () => void open.delete(wish) };
}
