import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/**
 * What the npm scripts share. It runs before anything is installed, so it is plain JavaScript and
 * uses nothing but Node. Each step looks whether it is needed: an existing checkout starts at once.
 */

export const root = fileURLToPath(new URL('..', import.meta.url));

/** Installs the packages of the lock file, unless that was done. */
export function ensureInstalled() {
  const stamp = join(root, 'node_modules', '.light-crest-installed');
  const wanted = hashOf([join(root, 'package-lock.json')], (path) => readFileSync(path));
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  say('Installing packages, once; this takes a few minutes.');
  run('npm', ['ci', '--no-audit', '--no-fund']);
  writeFileSync(stamp, wanted);
}

/** Builds page and server, unless nothing they are made of has changed. */
export function ensureBuilt() {
  ensurePart('page', ['web', 'core', 'vite.config.ts', 'package-lock.json'], () => {
    say('Building the page.');
    run(bin('vite'), ['build', '--logLevel', 'warn']);
  });
  ensureNodeBuilt();
}

/** What runs in Node.js alone. */
export function ensureNodeBuilt() {
  ensurePart('node', ['server', 'core', 'scripts/build-node.mjs', 'package-lock.json'], () => {
    run(process.execPath, [join(root, 'scripts/build-node.mjs')]);
  });
}

function ensurePart(name, made, build) {
  const stamp = join(root, 'dist', name, '.light-crest-built');
  const sources = made.map((path) => join(root, path));
  const files = sources.flatMap((path) => (statSync(path).isDirectory() ? filesBelow(path) : path));
  const wanted = hashOf(files, (path) => readFileSync(path));
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  build();
  writeStamp(stamp, wanted);
}

/** Debian's chromium for the browser tests, unless there is one. */
export function ensureChromium() {
  if (existsSync('/usr/bin/chromium')) return;
  say('Installing chromium for the browser tests.');
  const asRoot = process.getuid?.() === 0 ? [] : ['sudo'];
  const env = { DEBIAN_FRONTEND: 'noninteractive' };
  for (const words of [['update'], ['install', '-y', '--no-install-recommends', 'chromium']]) {
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

function filesBelow(folder) {
  return readdirSync(folder, { recursive: true })
    .map((name) => join(folder, name))
    .filter((path) => statSync(path).isFile())
    .sort();
}

function hashOf(paths, contentOf) {
  const hash = createHash('sha256');
  for (const path of paths) hash.update(path.slice(root.length)).update(contentOf(path));
  return hash.digest('hex');
}
