import { readdirSync, readFileSync } from 'node:fs';

/** Times and memory. Everything is compared within one run: the machine is noisy. */

const MS_PER_SECOND = 1_000;

export async function timedMs(work: () => Promise<unknown>): Promise<number> {
  const startMs = performance.now();
  await work();
  return performance.now() - startMs;
}

export async function secondsOf(work: () => Promise<unknown>): Promise<number> {
  return (await timedMs(work)) / MS_PER_SECOND;
}

export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)];
}

type Rivals<Name extends string> = Readonly<Record<Name, () => Promise<unknown>>>;

/** Runs the rivals in turn, several rounds, so that a slow moment hits all of them. @returns ms of each round */
async function roundsOf<Name extends string>(
  rivals: Rivals<Name>,
  rounds: number,
): Promise<Record<Name, number[]>> {
  const names = Object.keys(rivals) as Name[];
  const times = Object.fromEntries(names.map((name) => [name, [] as number[]])) as Record<
    Name,
    number[]
  >;
  for (const name of names) await rivals[name]();
  for (let round = 0; round < rounds; round++) {
    for (const name of names) times[name].push(await timedMs(rivals[name]));
  }
  return times;
}

/** The median of several rounds, ms. */
export async function interleaved<Name extends string>(
  rivals: Rivals<Name>,
  rounds: number,
): Promise<Record<Name, number>> {
  const times = await roundsOf(rivals, rounds);
  return mapped(times, (some) => median(some));
}

/**
 * What each rival takes of one of them. Where others take half of the machine for seconds, only what ran in the
 * same moments can be compared: it is the median of the shares of short rounds, not the share of medians.
 */
export async function sharesOf<Name extends string>(
  rivals: Rivals<Name>,
  whole: NoInfer<Name>,
  rounds: number,
): Promise<Record<Name, number>> {
  const times = await roundsOf(rivals, rounds);
  return mapped(times, (some) => median(some.map((ms, round) => ms / times[whole][round])));
}

function mapped<Name extends string, From, To>(
  record: Record<Name, From>,
  of: (value: From) => To,
): Record<Name, To> {
  const entries = Object.entries<From>(record).map(([name, value]) => [name, of(value)]);
  return Object.fromEntries(entries) as Record<Name, To>;
}

const BYTES_PER_KB = 1_024;

/**
 * Memory of a process and all it started, in MB: the proportional set size, in which pages that
 * processes share, such as those of Node.js itself, count once.
 */
export function treeMemoryMb(pid: number): number {
  const parents = new Map<number, number>();
  for (const name of readdirSync('/proc')) {
    if (!/^\d+$/.test(name)) continue;
    const parent = /^PPid:\s+(\d+)/m.exec(statusOf(Number(name)))?.[1];
    if (parent) parents.set(Number(name), Number(parent));
  }
  const isBelow = (one: number): boolean => {
    for (let at: number | undefined = one; at; at = parents.get(at)) if (at === pid) return true;
    return false;
  };
  const kb = [...parents.keys()]
    .filter(isBelow)
    .reduce((sum, one) => sum + Number(/^Pss:\s+(\d+)/m.exec(rollupOf(one))?.[1] ?? 0), 0);
  return kb / BYTES_PER_KB;
}

/** What a kernel counts the times of processes in. */
const TICK_MS = 10;

/** Time that the cores have spent on a process so far; what others took from it does not count. */
export function cpuMs(pid: number): number {
  // Behind the name, which may hold anything.
  const fields = procFile(pid, 'stat').split(') ').at(-1)?.split(' ') ?? [];
  return (Number(fields[11]) + Number(fields[12])) * TICK_MS;
}

const statusOf = (pid: number): string => procFile(pid, 'status');
const rollupOf = (pid: number): string => procFile(pid, 'smaps_rollup');

function procFile(pid: number, name: string): string {
  try {
    return readFileSync(`/proc/${pid}/${name}`, 'utf8');
  } catch {
    // The process has ended since the folder was listed.
    return '';
  }
}

export interface Row {
  readonly what: string;
  readonly found: string;
  readonly wanted: string;
  readonly isMet: boolean;
}

export function atMost(what: string, value: number, limit: number, unit = ''): Row {
  const found = `${rounded(value)}${unit}`;
  return { what, found, wanted: `≤ ${rounded(limit)}${unit}`, isMet: value <= limit };
}

export function atLeast(what: string, value: number, limit: number, unit = ''): Row {
  const found = `${rounded(value)}${unit}`;
  return { what, found, wanted: `≥ ${rounded(limit)}${unit}`, isMet: value >= limit };
}

/** A figure without a limit, beside which others are seen. */
export function told(what: string, value: number, unit = ''): Row {
  return { what, found: `${rounded(value)}${unit}`, wanted: '', isMet: true };
}

/** Two decimals, three where two would say nothing. */
function rounded(value: number): string {
  return value !== 0 && value < 0.1 ? value.toFixed(3) : String(Number(value.toFixed(2)));
}

export function printTable(rows: readonly Row[]): void {
  const width = Math.max(...rows.map((row) => row.what.length));
  for (const { what, found, wanted, isMet } of rows) {
    const mark = wanted === '' ? '' : isMet ? 'met' : 'MISSED';
    const line = `${what.padEnd(width)}  ${found.padStart(12)}  ${wanted.padStart(12)}  ${mark}`;
    process.stdout.write(`${line}\n`);
  }
}
