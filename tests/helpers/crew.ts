import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { createServer, type AddressInfo } from 'node:net';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { builtModule } from './built.ts';

/** Redis and workers as real processes. */

const ROOT = fileURLToPath(new URL('../..', import.meta.url));

export async function freePort(): Promise<number> {
  const server = createServer();
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const { port } = server.address() as AddressInfo;
  await new Promise((done) => server.close(done));
  return port;
}

/** A process that can be killed, frozen and woken. */
export interface OwnProcess {
  readonly pid: number;
  readonly said: () => string;
  readonly signal: (signal: NodeJS.Signals) => void;
  readonly kill: () => Promise<void>;
  readonly gone: Promise<number | null>;
}

function started(child: ChildProcess): OwnProcess {
  let said = '';
  for (const stream of [child.stdout, child.stderr]) {
    stream?.on('data', (text: Buffer) => (said += text.toString()));
  }
  const gone = new Promise<number | null>((done) => child.on('exit', done));
  const kill = async (): Promise<void> => {
    child.kill('SIGKILL');
    await gone;
  };
  return {
    ...{ pid: child.pid ?? 0, said: () => said, kill, gone },
    signal: (signal) => void child.kill(signal),
  };
}

/** A key and a certificate of its own for 127.0.0.1. */
export function certificateIn(folder: string): { key: string; certificate: string } {
  const [key, certificate] = [join(folder, 'redis.key'), join(folder, 'redis.crt')];
  const kind = ['-newkey', 'ec', '-pkeyopt', 'ec_paramgen_curve:prime256v1', '-nodes'];
  const of = ['-subj', '/CN=redis', '-addext', 'subjectAltName=IP:127.0.0.1', '-days', '2'];
  const files = ['-keyout', key, '-out', certificate];
  execFileSync('openssl', ['req', '-x509', ...kind, ...of, ...files], { stdio: 'ignore' });
  return { key, certificate };
}

/** One that keeps nothing when it ends, as the worst there can be. */
export async function startRedis(
  folder: string,
  port: number,
  /** PEM files, where it speaks TLS. */
  tls?: { readonly key: string; readonly certificate: string },
): Promise<OwnProcess> {
  const words = ['--bind', '127.0.0.1', '--save', '', '--appendonly', 'no', '--dir', folder];
  const open = ['--port', `${port}`];
  const closed = tls && [
    ...['--port', '0', '--tls-port', `${port}`, '--tls-auth-clients', 'no'],
    ...['--tls-key-file', tls.key, '--tls-cert-file', tls.certificate],
    ...['--tls-ca-cert-file', tls.certificate],
  ];
  const redis = started(
    spawn('redis-server', [...words, ...(closed ?? open)], { stdio: ['ignore', 'pipe', 'pipe'] }),
  );
  while (!redis.said().includes('Ready to accept connections')) {
    await Promise.race([
      new Promise((done) => setTimeout(done, 50)),
      redis.gone.then((code) => {
        throw new Error(`Redis ended early (${code}): ${redis.said()}`);
      }),
    ]);
  }
  return redis;
}

/** A store that speaks S3, with its objects as files in a folder. */
export async function startStore(
  folder: string,
  port: number,
  bucket: string,
): Promise<OwnProcess> {
  const s3rver = join(ROOT, 'node_modules', 's3rver', 'bin', 's3rver.js');
  const words = ['-d', folder, '-a', '127.0.0.1', '-p', `${port}`, '--configure-bucket', bucket];
  const store = started(
    spawn(process.execPath, [s3rver, ...words], { stdio: ['ignore', 'pipe', 'pipe'] }),
  );
  const isThere = () =>
    fetch(`http://127.0.0.1:${port}/`).then(
      () => true,
      () => false,
    );
  while (!(await isThere())) await new Promise((done) => setTimeout(done, 50));
  return store;
}

/** What it lets in. */
export const STORE_KEYS = { AWS_ACCESS_KEY_ID: 'S3RVER', AWS_SECRET_ACCESS_KEY: 'S3RVER' };

export interface WorkerWish {
  readonly name: string;
  readonly redis: string;
  readonly token: string;
  /** `name=folder` */
  readonly roots: readonly string[];
  /** `s3://bucket/prefix` */
  readonly store?: string;
  readonly env?: NodeJS.ProcessEnv;
  /** Folder of another build. */
  readonly built?: string;
  readonly leaseMs?: number;
  readonly jobs?: number;
  readonly cache: string;
  /** PEM of the authority of Redis. */
  readonly ca?: string;
  /** It is held to that core. */
  readonly core?: number;
}

export function startWorker(wish: WorkerWish): OwnProcess {
  const { name, redis, token, roots, store, leaseMs = 1_500, jobs = 1, cache, core, ca } = wish;
  const words = ['worker', '--name', name, '--jobs', `${jobs}`];
  const built = wish.built ? join(wish.built, 'cli.js') : builtModule('cli');
  if (built === undefined) throw new Error('Expected the command line to be built.');
  const run = `import { main } from ${JSON.stringify(built)}; process.exitCode = await main(process.argv.slice(1));`;
  const given = roots.flatMap((root) => ['--root', root]);
  if (store !== undefined) given.push('--store', store);
  const node = [process.execPath, '--input-type=module', '-e', run, '--', ...words, ...given];
  const held = core === undefined ? node : ['taskset', '-c', `${core}`, ...node];
  const child = spawn(held[0], held.slice(1), {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'pipe'],
    env: {
      ...process.env,
      ...{
        LIGHT_CREST_REDIS: redis,
        LIGHT_CREST_TOKEN: token,
        LIGHT_CREST_CACHE: join(cache, name),
      },
      LIGHT_CREST_LEASE_MS: `${leaseMs}`,
      ...wish.env,
      ...(ca === undefined ? {} : { LIGHT_CREST_REDIS_CA: ca }),
    },
  });
  return started(child);
}
