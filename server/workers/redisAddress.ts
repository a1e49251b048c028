import { readFileSync } from 'node:fs';
import { failure, success, type Result } from '#core/result';

/** How the Redis between server and workers is reached. */

const LOOPBACK: ReadonlySet<string> = new Set(['localhost', '127.0.0.1', '::1', '[::1]']);
/** Whether a name is of this machine itself, so that nothing said to it leaves it. */
export function isLoopback(name: string): boolean {
  return LOOPBACK.has(name);
}

const RECONNECT_MOST_MS = 2_000;

/** As both the queue and the client of Redis understand it. */
export interface RedisAddress {
  readonly host: string;
  readonly port: number;
  readonly db: number;
  readonly username?: string;
  readonly password?: string;
  readonly tls?: { readonly ca?: Buffer };
  readonly maxRetriesPerRequest: null;
  readonly retryStrategy: (tries: number) => number;
}

/**
 * @param address `redis://` to this machine alone, `rediss://` (TLS) to any
 * @param caFile PEM of the authority that its certificate is of, where that is a studio's own
 */
export function redisAt(address: string, caFile?: string): Result<RedisAddress> {
  const found = URL.canParse(address) ? new URL(address) : null;
  if (!found || !['redis:', 'rediss:'].includes(found.protocol)) {
    return failure(
      `Expected a Redis as redis://127.0.0.1:6379 or rediss://host:6379, found "${address}".`,
    );
  }
  const isTls = found.protocol === 'rediss:';
  if (!isTls && !isLoopback(found.hostname)) {
    return failure(
      `${found.host} is another machine, and redis:// would send to it in the open. Give Redis a ` +
        'certificate and use rediss:// (docs/scaling.md says how).',
    );
  }
  const { hostname, port, username, password, pathname } = found;
  return success({
    host: hostname.replace(/^\[|\]$/g, ''),
    port: Number(port || '6379'),
    ...(username ? { username: decodeURIComponent(username) } : {}),
    ...(password ? { password: decodeURIComponent(password) } : {}),
    db: Number(pathname.slice(1) || '0'),
    ...(isTls ? { tls: caFile ? { ca: readFileSync(caFile) } : {} } : {}),
    // One that is away is waited for: what was asked is asked when it is back.
    maxRetriesPerRequest: null,
    retryStrategy: (tries) => Math.min(RECONNECT_MOST_MS, tries * 100),
  });
}
