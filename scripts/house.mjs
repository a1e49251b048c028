import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/**
 * What the npm scripts share. It runs before anything is installed, so it is plain JavaScript and
 * uses nothing but Node. Each step looks whether it is needed: an existing checkout starts at once.
 */

export const root = fileURLToPath(new URL('..', import.meta.url));

/** For building and running; or for tests, benches and development as well. */
const INSTALLS = { run: ['--omit=dev'], all: [] };

/**
 * Installs the packages of the lock file, unless that was done. What only tests need is added when they
 * are run first: nothing is removed then, since a server may run with what is there.
 */
export function ensureInstalled(kind = 'all') {
  const stamp = join(root, 'node_modules', '.light-crest-installed');
  const lock = hashOf([join(root, 'package-lock.json')]);
  const wanted = (installed) => `${lock} ${installed}`;
  const found = existsSync(stamp) ? readFileSync(stamp, 'utf8') : '';
  if (found === wanted('all') || found === wanted(kind)) return;
  say('Installing packages, once; this takes a few minutes.');
  const command = found === wanted('run') ? ['install', '--no-save'] : ['ci'];
  run('npm', [...command, '--no-audit', '--no-fund', ...INSTALLS[kind]]);
  writeFileSync(stamp, wanted(kind));
}

const PAGE_SOURCES = ['web', 'core', 'vite.config.ts', 'package-lock.json'];
const NODE_SOURCES = ['core', 'server', 'cli', 'demo/*.ts', 'scripts/build-node.mjs'];

/** Builds page, server and command line, unless nothing they are made of has changed. */
export function ensureBuilt() {
  const stamp = join(root, 'dist', 'page', '.light-crest-built');
  const wanted = hashOf(sourceFiles(PAGE_SOURCES));
  if (!existsSync(stamp) || readFileSync(stamp, 'utf8') !== wanted) {
    say('Building the page.');
    run(bin('vite'), ['build', '--logLevel', 'warn']);
    writeStamp(stamp, wanted);
  }
  ensureNodeBuilt();
}

/** Servers and calls that still run may need theirs: the last few builds stay. */
const BUILDS_KEPT = 4;

/**
 * Builds what runs in Node.js alone, into a folder named by its sources: calls may come at once, be
 * killed, and run while another is built. Tests of this itself keep their builds apart from those that
 * others run from; packages are found from any folder below this one.
 * @returns the folder
 */
export function ensureNodeBuilt() {
  const builds = process.env.LIGHT_CREST_BUILDS ?? join(root, 'dist', 'node');
  const hash = hashOf(sourceFiles([...NODE_SOURCES, 'package-lock.json'])).slice(0, 16);
  const folder = join(builds, hash);
  if (existsSync(folder)) return folder;
  const making = join(builds, `${hash}.${process.pid}`);
  run(process.execPath, [join(root, 'scripts/build-node.mjs'), making]);
  try {
    renameSync(making, folder);
  } catch (error) {
    // Another call was quicker.
    rmSync(making, { recursive: true, force: true });
    if (!existsSync(folder)) throw error;
  }
  // One that another call takes away at this moment has no age any more.
  const ageOf = (name) => statSync(join(builds, name), { throwIfNoEntry: false })?.mtimeMs ?? 0;
  const ages = readdirSync(builds).map((name) => [ageOf(name), name]);
  for (const [, name] of ages.sort(([a], [b]) => b - a).slice(BUILDS_KEPT)) {
    rmSync(join(builds, name), { recursive: true, force: true });
  }
  return folder;
}

/** Debian's chromium for the browser tests, unless there is one. */
export function ensureChromium() {
  ensurePackage('chromium', '/usr/bin/chromium', 'the browser tests');
}

/** The tools for JPEGs that stay untouched but for their mark, unless they are there. */
export function ensureJpegTools() {
  ensurePackage('libjpeg-turbo-progs', '/usr/bin/jpegtran', 'tests of untouched JPEGs');
}

/** Redis, which server and workers meet in, unless it is there. */
export function ensureRedis() {
  ensurePackage('redis-server', '/usr/bin/redis-server', 'tests of workers');
  ensurePackage('openssl', '/usr/bin/openssl', 'tests of workers');
}

/** A package of Debian's. @param path what it brings */
function ensurePackage(name, path, purpose) {
  if (existsSync(path)) return;
  say(`Installing ${name} for ${purpose}.`);
  const asRoot = process.getuid?.() === 0 ? [] : ['sudo'];
  const env = { DEBIAN_FRONTEND: 'noninteractive' };
  for (const words of [['update'], ['install', '-y', '--no-install-recommends', name]]) {
    const [command, ...rest] = [...asRoot, 'apt-get', '-qq', ...words];
    run(command, rest, env);
  }
}

/** Runs a command to its end; a failure ends this process with the same status. */
export function run(command, words, env = {}) {
  const done = spawnSync(command, words, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  if (done.error) {
    process.stderr.write(`${command} could not be started: ${done.error.message}\n`);
    process.exit(1);
  }
  if (done.status !== 0) process.exit(done.status ?? 1);
}

/** Starts a command that goes on until this process ends, and ends with it. */
export function stay(command, words, env = {}) {
  const child = spawn(command, words, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
  child.on('exit', (code) => process.exit(code ?? 0));
}

export function bin(name) {
  return join(root, 'node_modules', '.bin', name);
}

/** Words for Node to run a TypeScript file of ours. */
export function script(path) {
  return ['--import', 'tsx', join(root, path)];
}

export function say(sentence) {
  process.stdout.write(`${sentence}\n`);
}

export function writeStamp(path, text) {
  mkdirSync(dirname(path), { recursive: true });
  writeFileSync(path, text);
}

/** Files and folders of the checkout, and files of one ending by `folder/*.ending`. */
function sourceFiles(sources) {
  return sources.flatMap((source) => {
    const [folder, ending] = source.split('/*');
    const path = join(root, folder);
    if (statSync(path).isFile()) return [path];
    return readdirSync(path, { withFileTypes: true, recursive: ending === undefined })
      .filter((entry) => entry.isFile() && entry.name.endsWith(ending ?? ''))
      .map((entry) => join(entry.parentPath ?? entry.path, entry.name))
      .sort();
  });
}

function hashOf(paths) {
  const hash = createHash('sha256');
  for (const path of paths) hash.update(path.slice(root.length)).update(readFileSync(path));
  return hash.digest('hex');
}
