import { readFile, readdir, stat } from 'node:fs/promises';
import { homedir, userInfo } from 'node:os';
import { join } from 'node:path';
import { withinTime } from './withinTime.ts';

/** Where people keep photos: their home, and the disks and cards that are plugged in. */
export interface FolderPlace {
  readonly kind: 'home' | 'disk' | 'last' | 'allowed';
  readonly name: string;
  readonly path: string;
}

/** A disk on another computer may never answer. */
const LOOK_MS = 2_000;
/** Where Linux systems mount what is plugged in. */
const DISKS_BELOW = /^\/(media|mnt|run\/media|Volumes)\//;
/** Folders of a home where photos usually lie; those that are there. */
const OF_HOME = ['Pictures', 'Photos', 'Desktop', 'Downloads'];

export async function homePlaces(home = homedir()): Promise<FolderPlace[]> {
  const folders = [home, ...OF_HOME.map((name) => join(home, name))];
  const there = await Promise.all(folders.map(isFolder));
  return folders
    .filter((_, index) => there[index])
    .map((path) => ({
      kind: 'home',
      name: path === home ? 'Home' : path.slice(home.length + 1),
      path,
    }));
}

/** @param mounts the lines of `/proc/self/mountinfo` (proc(5)); on other systems there are none */
export async function diskPlaces(
  mounts: () => Promise<string> = () => readFile('/proc/self/mountinfo', 'utf8'),
): Promise<FolderPlace[]> {
  const text = await mounts().catch(() => '');
  const mounted = text
    .split('\n')
    .map((line) => unescaped(line.split(' ')[4] ?? ''))
    .filter((path) => DISKS_BELOW.test(path));
  const volumes = process.platform === 'darwin' ? await named('/Volumes') : [];
  const letters = process.platform === 'win32' ? await driveLetters() : [];
  const paths = [...new Set([...mounted, ...volumes, ...letters])].sort();
  return paths.map((path) => ({ kind: 'disk', name: nameOf(path), path }));
}

/** Spaces and the like are written as octal numbers there. */
function unescaped(path: string): string {
  return path.replace(/\\([0-7]{3})/g, (_, code: string) => String.fromCharCode(parseInt(code, 8)));
}

/** What a disk is called, without the name of whoever is signed in. */
function nameOf(path: string): string {
  const name = path.replace(DISKS_BELOW, '').replace(/[\\/]$/, '');
  const user = `${userInfo().username}/`;
  return (name.startsWith(user) ? name.slice(user.length) : name) || path;
}

async function named(folder: string): Promise<string[]> {
  const names = await withinTime(LOOK_MS, folder, () => readdir(folder)).catch(() => []);
  return names.map((name) => join(folder, name));
}

async function driveLetters(): Promise<string[]> {
  const all = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'].map((letter) => `${letter}:\\`);
  const there = await Promise.all(all.map(isFolder));
  return all.filter((_, index) => there[index]);
}

async function isFolder(path: string): Promise<boolean> {
  const found = await withinTime(LOOK_MS, path, () => stat(path)).catch(() => null);
  return found?.isDirectory() ?? false;
}
