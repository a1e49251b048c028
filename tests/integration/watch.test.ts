import { spawn, type ChildProcess } from 'node:child_process';
import {
  appendFileSync,
  copyFileSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { temporaryFolder, until } from '../helpers/house.ts';
import { MARK_SVG, writeJpeg } from '../helpers/makePhoto.ts';

/** A folder that is watched by the command line, with real processes that are stopped and killed. */

const BIN = fileURLToPath(new URL('../../bin/light-crest', import.meta.url));

let folder: string;
let inbox: string;
let out: string;
let child: ChildProcess | null = null;
beforeEach(async () => {
  folder = temporaryFolder();
  inbox = join(folder, 'in');
  out = join(folder, 'out');
  mkdirSync(inbox);
  writeFileSync(join(folder, 'mark.svg'), MARK_SVG);
  await writeJpeg(join(folder, 'photo.jpg'), { width: 900, height: 600 });
});
afterEach(() => {
  child?.kill('SIGKILL');
  rmSync(folder, { recursive: true });
});

interface Watching {
  readonly lines: () => { source: string; output: string | null; status: string }[];
  readonly said: () => string;
  readonly end: (signal: NodeJS.Signals) => Promise<number | null>;
}

async function watching(...words: string[]): Promise<Watching> {
  const all = ['watch', 'in', '--mark', 'mark.svg', '--out', 'out', '--json', ...words];
  // A group of its own: Ctrl+C in a terminal reaches all processes of one.
  const own = spawn(BIN, all, { cwd: folder, detached: true });
  child = own;
  let [printed, said] = ['', ''];
  own.stdout.on('data', (text: Buffer) => (printed += text.toString()));
  own.stderr.on('data', (text: Buffer) => (said += text.toString()));
  const gone = new Promise<number | null>((done) => own.on('close', done));
  await until(
    () => said,
    (text) => text.includes('watching in'),
  );
  return {
    lines: () =>
      printed
        .split('\n')
        .slice(0, -1)
        .map((line) => JSON.parse(line)),
    said: () => said,
    end: (signal) => {
      process.kill(-Number(own.pid), signal);
      return gone;
    },
  };
}

const put = (name: string): void => copyFileSync(join(folder, 'photo.jpg'), join(inbox, name));
const outputs = (below = ''): string[] =>
  readdirSync(join(out, below), { withFileTypes: true })
    .filter((entry) => entry.isFile() && !entry.name.startsWith('.light-crest-watched'))
    .map(({ name }) => name)
    .sort();
const count = (watch: Watching, length: number) =>
  until(
    () => watch.lines(),
    (lines) => lines.length >= length,
  );

describe('a watched folder', () => {
  it('is exported as it fills, and each photo once, also when it is watched again', async () => {
    put('there.jpg');
    const watch = await watching('--move-failed', 'failed');
    const whole = readFileSync(join(folder, 'photo.jpg'));
    mkdirSync(join(inbox, 'day 2'));
    put('day 2/below.jpg');
    writeFileSync(join(inbox, 'slow.jpg'), whole.subarray(0, whole.length / 2));
    // For longer than a file has to rest: half of it cannot be read, so it is waited for.
    await new Promise((done) => setTimeout(done, 4_500));
    appendFileSync(join(inbox, 'slow.jpg'), whole.subarray(whole.length / 2));
    writeFileSync(join(inbox, 'broken.jpg'), 'no photo at all');
    const lines = await count(watch, 4);
    const told = new Map(lines.map(({ source, status }) => [source, status]));
    expect(Object.fromEntries(told)).toEqual({
      ...{ 'in/there.jpg': 'written', 'in/day 2/below.jpg': 'written' },
      ...{ 'in/slow.jpg': 'written', 'in/broken.jpg': 'failed' },
    });
    expect(outputs()).toEqual(['slow-web.jpg', 'there-web.jpg']);
    expect(outputs('day 2')).toEqual(['below-web.jpg']);
    await until(
      () => watch.said(),
      (said) => said.includes('was moved to'),
    );
    expect(readdirSync(inbox).sort()).toEqual(['day 2', 'slow.jpg', 'there.jpg']);
    expect(readdirSync(join(folder, 'failed'))).toEqual(['broken.jpg']);
    expect(await watch.end('SIGTERM')).toBe(1);

    // Again: nothing of before, what is new, and what has other content.
    await sharp(join(folder, 'photo.jpg')).negate().toFile(join(inbox, 'there.jpg'));
    put('new.jpg');
    const again = await watching();
    const second = await count(again, 2);
    expect(second.map(({ source }) => source).sort()).toEqual(['in/new.jpg', 'in/there.jpg']);
    await new Promise((done) => setTimeout(done, 2_500));
    expect(again.lines()).toHaveLength(2);
    expect(await again.end('SIGINT')).toBe(0);
    expect(outputs()).toEqual([
      ...['new-web.jpg', 'slow-web.jpg', 'there-web-2.jpg', 'there-web.jpg'],
    ]);
  });

  it('loses and doubles nothing where it is killed', async () => {
    const names = Array.from({ length: 24 }, (_, index) => `${index + 1}.jpg`);
    for (const name of names) put(name);
    for (let done = 3; done < names.length; done += 6) {
      const watch = await watching('--no-verify');
      await count(watch, done === 3 ? 3 : 4);
      await watch.end('SIGKILL');
    }
    const last = await watching('--no-verify');
    await until(
      () => outputs(),
      (files) => files.filter((name) => !name.startsWith('.')).length >= names.length,
    );
    // Longer than a photo takes: one too many would have been made by now.
    await new Promise((done) => setTimeout(done, 3_000));
    expect(await last.end('SIGTERM')).toBe(0);
    expect(outputs()).toEqual(names.map((name) => name.replace('.jpg', '-web.jpg')).sort());
  });

  it('lets what is in work finish when it is ended from a terminal', async () => {
    for (let index = 0; index < 12; index++) put(`${index}.jpg`);
    const watch = await watching();
    await count(watch, 1);
    expect(await watch.end('SIGINT')).toBe(0);
    const made = outputs();
    expect(made.length).toBeLessThan(12);
    expect(made.filter((name) => name.startsWith('.'))).toEqual([]);
    expect(watch.lines().every(({ status }) => status === 'written')).toBe(true);
    expect(watch.lines()).toHaveLength(made.length);
  });

  it('is waited for while it is away, and so is the folder of the outputs', async () => {
    const watch = await watching();
    renameSync(inbox, `${inbox}-away`);
    const says = (text: string) =>
      until(
        () => watch.said(),
        (said) => said.includes(text),
      );
    await says('It is waited for.');
    renameSync(`${inbox}-away`, inbox);
    await says('in is there again.');
    renameSync(out, `${out}-away`);
    put('a.jpg');
    await until(
      () => watch.said().split('It is waited for.').length,
      (times) => times > 2,
    );
    expect(watch.lines()).toEqual([]);
    renameSync(`${out}-away`, out);
    await count(watch, 1);
    expect(outputs()).toEqual(['a-web.jpg']);
    expect(await watch.end('SIGTERM')).toBe(0);
  });

  it.each([
    [['in', '--out', 'in/out'], 'would be taken in again'],
    [['in', '--out', 'in'], 'would be taken in again'],
    [['in', '--out', 'out', '--move-failed', 'in/failed'], 'would be taken in again'],
    [['none', '--out', 'out'], 'expected a folder to watch'],
    [['mark.svg', '--out', 'out'], 'expected a folder to watch'],
  ])('is refused as %j', async (words, reason) => {
    const own = spawn(BIN, ['watch', ...words, '--mark', 'mark.svg'], { cwd: folder });
    let said = '';
    own.stderr.on('data', (text: Buffer) => (said += text.toString()));
    const status = await new Promise((done) => own.on('close', done));
    expect([status, said]).toEqual([2, expect.stringContaining(reason)]);
    expect(existsSync(join(inbox, 'out'))).toBe(false);
  });
});
