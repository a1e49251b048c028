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

/** @returns null for what cannot be known again */
export function requestKey(path: string, body: BodyInit | undefined | null): RequestKey | null {
  const text = textOf(body);
  if (text === null) return null;
  const wish = `${path} ${text}`;
  const value = open.get(wish) ?? crypto.randomUUID();
  open.set(wish, value);
  return { value, done: () => void open.delete(wish) };
}

/** A file is known by what the browser says of it, and by the path it is sent to. */
function textOf(body: BodyInit | undefined | null): string | null {
  if (body === undefined || body === null || typeof body === 'string') return body ?? '';
  if (!(body instanceof Blob)) return null;
  const modified = body instanceof File ? `${body.name} ${body.lastModified}` : '';
  return `${modified} ${body.size} ${body.type}`;
}
