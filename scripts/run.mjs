import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { bin, ensureBuilt, ensureChromium, ensureInstalled, ensureNodeBuilt } from './house.mjs';
import { root, run, say, script, stay, writeStamp } from './house.mjs';

/** `npm run demo`, `start`, `dev`, `bench`, `screenshots`: set up what is missing, then go. */

const DEMO_PORT = '4320';
const DEV_PAGE = 'http://localhost:5173';
/**
 * Few arenas keep what previews took of memory from lying about in many heaps. A disk that does not
 * answer holds a thread for each question: with more of them, all other disks can still be asked.
 */
const FEW_ARENAS = { MALLOC_ARENA_MAX: '2', UV_THREADPOOL_SIZE: '12' };
const demoData = join(root, '.data', 'demo');
const demoFolder = join(root, 'demo');

const actions = { demo, start, dev, bench, screenshots };
const action = actions[process.argv[2]];
if (!action) {
  process.stderr.write(`Expected one of ${Object.keys(actions).join(', ')}.\n`);
  process.exit(2);
}
ensureInstalled(['demo', 'start'].includes(process.argv[2]) ? 'run' : 'all');
action();

function demo() {
  ensureBuilt();
  const env = {
    LIGHT_CREST_DATA: process.env.LIGHT_CREST_DATA ?? demoData,
    LIGHT_CREST_PORT: process.env.LIGHT_CREST_PORT ?? DEMO_PORT,
    LIGHT_CREST_FOLDERS: process.env.LIGHT_CREST_FOLDERS ?? demoFolder,
  };
  seedOnce(env);
  stay(process.execPath, built('server'), { ...env, ...FEW_ARENAS });
}

/** A seed that was interrupted is begun again; a finished one is left as the user has changed it. */
function seedOnce(env) {
  const stamp = join(env.LIGHT_CREST_DATA, 'seeded');
  if (existsSync(stamp)) return;
  say('Filling the demo with photos, marks and presets, once.');
  if (env.LIGHT_CREST_DATA === demoData) rmSync(demoData, { recursive: true, force: true });
  run(process.execPath, built('seed'), env);
  writeStamp(stamp, '');
}

function start() {
  ensureBuilt();
  stay(process.execPath, built('server'), FEW_ARENAS);
}

/** Words for Node to run a part that was built. */
function built(part) {
  return ['--enable-source-maps', join(ensureNodeBuilt(), `${part}.js`)];
}

function dev() {
  const server = `${process.execPath} --watch ${script('server/main.ts').join(' ')}`;
  stay(bin('concurrently'), ['-k', '-n', 'server,page', server, 'vite'], {
    LIGHT_CREST_DEV: DEV_PAGE,
  });
}

function bench() {
  ensureBuilt();
  ensureChromium();
  stay(process.execPath, [...script('bench/main.ts'), ...process.argv.slice(3)]);
}

function screenshots() {
  ensureBuilt();
  ensureChromium();
  stay(process.execPath, script('scripts/screenshots.ts'));
}
