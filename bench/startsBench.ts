import { execFile, spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { presetRuleSchema } from '#core/contract/preset';
import { lockData } from '#server/storage/dataLock';
import { ensureNodeBuilt, root } from '../scripts/house.mjs';
import { startServer, type ServerProcess } from '../tests/helpers/serverProcess.ts';
import { ask } from './ask.ts';
import { keptLiftBench } from './keptLiftBench.ts';
import { cameraPhotos, folderOf, MARK } from './material.ts';
import { atMost, median, secondsOf, told, treeMemoryMb, type Row } from './measure.ts';

/** How soon it does something: the command line, one photo, the server, the first file of a run. */

const exec = promisify(execFile);
const BIN = join(root, 'bin', 'light-crest');
const ROUNDS = 7;
const POLL_MS = 10;
const RUN_PHOTOS = 40;
/** Enough that all processes are at work for a while. */
const APPLIED = 12;

/** The bare library in a process of its own: decode, encode, write. */
const FLOOR = `
  import sharp from ${JSON.stringify(join(root, 'node_modules/sharp/dist/index.mjs'))};
  await sharp(process.argv[1]).autoOrient().jpeg({ quality: 88, chromaSubsampling: '4:4:4' })
    .toFile(process.argv[2]);
`;

export async function startsBench(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'light-crest-bench-'));
  try {
    return [
      ...(await commandLine(folder)),
      await applyMemory(folder),
      ...(await serverUp(folder)),
      ...(await firstFile(folder)),
      ...(await keptLiftBench(folder)),
    ];
  } finally {
    rmSync(folder, { recursive: true });
  }
}

async function several(work: () => Promise<unknown>): Promise<number> {
  const times: number[] = [];
  for (let round = 0; round < ROUNDS; round++) times.push(await secondsOf(work));
  return median(times);
}

async function commandLine(folder: string): Promise<Row[]> {
  const [photo] = await cameraPhotos();
  const out = join(folder, 'applied');
  const help = (): Promise<unknown> => exec(BIN, ['--help']);
  const applied = (): Promise<unknown> => {
    rmSync(out, { recursive: true, force: true });
    return exec(BIN, ['apply', '--mark', MARK, '--out', out, photo]);
  };
  const cold = await unbuilt(help);
  const bare = join(folder, 'bare.jpg');
  const floor = await several(() =>
    exec(process.execPath, ['--input-type=module', '-e', FLOOR, photo, bare]),
  );
  const one = await several(applied);
  return [
    told('start: --help, nothing built yet', cold, ' s'),
    atMost('start: --help', await several(help), 0.25, ' s'),
    atMost(
      'start: schema preset',
      await several(() => exec(BIN, ['schema', 'preset'])),
      0.25,
      ' s',
    ),
    told('start: the bare floor for one photo, with its process', floor, ' s'),
    atMost('start: apply to one photo, over the floor', one - floor, 1.2, ' s'),
  ];
}

/** How long something takes where nothing was built; what was is put back. */
async function unbuilt(work: () => Promise<unknown>): Promise<number> {
  const builds = join(root, 'dist', 'node');
  const kept = `${builds} kept`;
  renameSync(builds, kept);
  try {
    return await secondsOf(work);
  } finally {
    rmSync(builds, { recursive: true, force: true });
    renameSync(kept, builds);
  }
}

async function applyMemory(folder: string): Promise<Row> {
  const photos = await folderOf(APPLIED, join(folder, 'for memory'));
  const out = join(folder, 'applied at once');
  const child = spawn(BIN, ['apply', '--mark', MARK, '--out', out, ...photos], { stdio: 'ignore' });
  const gone = new Promise((done) => child.on('exit', done));
  let peak = 0;
  const sampling = setInterval(() => (peak = Math.max(peak, treeMemoryMb(child.pid ?? 0))), 100);
  await gone;
  clearInterval(sampling);
  if (readdirSync(out).length !== APPLIED) throw new Error('Not all photos were written.');
  return atMost('apply at full size: peak memory, all processes', peak, 700, ' MB');
}

async function serverUp(folder: string): Promise<Row[]> {
  const rows: Row[] = [];
  const data = join(folder, 'up');
  rows.push(told('start: npm start, first time', await upAfter('start', data), ' s'));
  const again: number[] = [];
  for (let round = 0; round < ROUNDS; round++) again.push(await upAfter('start', data));
  rows.push(atMost('start: the server answers after npm start', median(again), 1.5, ' s'));
  const demo = join(folder, 'demo');
  rows.push(told('start: npm run demo, first time (built)', await upAfter('demo', demo), ' s'));
  rows.push(atMost('start: a second npm run demo', await upAfter('demo', demo), 2, ' s'));
  return rows;
}

/** Seconds until a request is answered. */
async function upAfter(command: string, data: string): Promise<number> {
  const port = String(await freePort());
  let child: ReturnType<typeof spawn> | undefined;
  const seconds = await secondsOf(async () => {
    child = spawn('npm', ['run', '--silent', command], {
      cwd: root,
      detached: true,
      stdio: 'ignore',
      env: { ...process.env, LIGHT_CREST_DATA: data, LIGHT_CREST_PORT: port },
    });
    const isUp = (): Promise<boolean> =>
      fetch(`http://127.0.0.1:${port}/api/settings`).then(
        ({ ok }) => ok,
        () => false,
      );
    while (!(await isUp())) await pause();
  });
  const gone = new Promise((done) => child?.on('exit', done));
  process.kill(-(child?.pid ?? 0), 'SIGTERM');
  await gone;
  // The lock on the data is given back by the server itself, a moment after npm has ended.
  for (;;) {
    const lock = lockData(data);
    if ('release' in lock) {
      lock.release();
      return seconds;
    }
    await pause();
  }
}

const pause = (): Promise<unknown> => new Promise((done) => setTimeout(done, POLL_MS));

function freePort(): Promise<number> {
  return new Promise((done) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => done(port));
    });
  });
}

/** A server that has done nothing yet, and one whose processes are there. */
async function firstFile(folder: string): Promise<Row[]> {
  process.env.LIGHT_CREST_BUILT = ensureNodeBuilt();
  const pictures = join(folder, 'pictures');
  const camera = join(pictures, 'camera');
  mkdirSync(join(pictures, 'out'), { recursive: true });
  await folderOf(RUN_PHOTOS, camera);
  const data = join(folder, 'first file');
  let server = await startServer(data, pictures);
  try {
    const { id } = await ask<{ id: number }>(server, 'POST', '/batches', { name: 'First' });
    await ask(server, 'POST', `/batches/${id}/folders`, { path: camera });
    while ((await ask<{ reading: unknown }>(server, 'GET', `/batches/${id}`)).reading)
      await pause();
    const warm = await untilFirstFile(server, pictures, id);
    await server.stop();
    server = await startServer(data, pictures);
    const cold = await untilFirstFile(server, pictures, id);
    return [
      atMost('start: first file of a run, cold processes', cold, 1.5, ' s'),
      atMost('start: first file of a run, after an import', warm, 1.5, ' s'),
    ];
  } finally {
    await server.kill();
  }
}

/** Seconds from the order to a file under its own name. */
async function untilFirstFile(
  server: ServerProcess,
  pictures: string,
  batchId: number,
): Promise<number> {
  const out = mkdtempSync(join(pictures, 'out', 'of-'));
  const post = (path: string, body: object): Promise<{ id: number }> =>
    ask(server, 'POST', path, body);
  const mark = await post('/marks?name=m.svg', readFileSync(MARK));
  const delivery = await post('/deliveries', { name: out, rule: {}, folder: out });
  const rule = presetRuleSchema.parse({});
  const wish = { batchId, deliveryIds: [delivery.id], markId: mark.id, presetName: 'P', rule };
  const seconds = await secondsOf(async () => {
    await post('/runs', wish);
    while (!readdirSync(out).some((name) => name.endsWith('.jpg') && !name.startsWith('.'))) {
      await pause();
    }
  });
  for (let isRunning = true; isRunning;) {
    await pause();
    isRunning = readdirSync(out).length < RUN_PHOTOS;
  }
  return seconds;
}
