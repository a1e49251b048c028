import {
  appendFileSync,
  mkdirSync,
  mkdtempSync,
  renameSync,
  rmSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { sweepFolder, type FoundFile } from './folderSweep.ts';
import { FolderWatch, type Handled, type WatchDuties } from './folderWatch.ts';
import { eventually } from '../../tests/helpers/eventually.ts';

const PACE = { stillMs: 150, patienceMs: 500, lookEachMs: 20 };
/** For a writer of its own pace: the machine may stand still for a second, and is not taken for it. */
const CALM = { stillMs: 1_500, patienceMs: 5_000, lookEachMs: 20 };

let folder: string;
let watch: FolderWatch | null = null;
let running: Promise<void> | null = null;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'light-crest-inbox-'));
});
afterEach(async () => {
  watch?.stop();
  await running;
  [watch, running] = [null, null];
  rmSync(folder, { recursive: true, force: true });
});

const put = (name: string, text = name): void => writeFileSync(join(folder, name), text);

/** Watches the folder, and writes down what it hands out. */
function watching(
  answer: (file: FoundFile, isLast: boolean) => Handled | Promise<Handled> = () => 'done',
  more: Partial<WatchDuties> = {},
  pace = PACE,
) {
  const handled: string[] = [];
  const told: (string | null)[] = [];
  const done = new Map<string, string>();
  const stateOf = ({ bytes, modifiedMs }: FoundFile): string => `${bytes} ${modifiedMs}`;
  watch = new FolderWatch(
    folder,
    {
      isDone: (file) => done.get(file.name) === stateOf(file),
      handle: async (file, isLast) => {
        handled.push(`${file.name}${isLast ? ', last' : ''}`);
        const what = await answer(file, isLast);
        if (what === 'done') done.set(file.name, stateOf(file));
        return what;
      },
      away: (reason) => told.push(reason),
      ...more,
    },
    pace,
  );
  running = watch.run();
  return { handled, told };
}

const later = (ms: number) => new Promise((done) => setTimeout(done, ms));

it('hands out each photo once, also below, and nothing else', async () => {
  mkdirSync(join(folder, 'day 2'));
  put('a.jpg');
  put('day 2/b.JPEG');
  put('notes.txt');
  put('.hidden.jpg');
  mkdirSync(join(folder, 'folder.jpg'));
  symlinkSync(folder, join(folder, 'round'));
  const { handled } = watching();
  await eventually(() => expect(handled).toEqual(['a.jpg', 'day 2/b.JPEG']));
  await later(400);
  put('c.png');
  await eventually(() => expect(handled).toEqual(['a.jpg', 'day 2/b.JPEG', 'c.png']));
});

it('waits for a file as long as that is being written', async () => {
  const { handled } = watching(undefined, {}, CALM);
  put('slow.jpg', '');
  for (let part = 0; part < 10; part++) {
    await later(250);
    appendFileSync(join(folder, 'slow.jpg'), 'more');
    expect(handled).toEqual([]);
  }
  await eventually(() => expect(handled).toEqual(['slow.jpg']));
});

it('waits longer for one that cannot be read, and says when it does no more', async () => {
  let isWhole = false;
  const { handled } = watching((_, isLast) => (isWhole || isLast ? 'done' : 'again'), {}, CALM);
  put('half.jpg', 'half');
  await eventually(() => expect(handled).toEqual(['half.jpg']));
  isWhole = true;
  // Its writer goes on: it is looked at as a new one.
  appendFileSync(join(folder, 'half.jpg'), ', whole');
  await eventually(() => expect(handled).toEqual(['half.jpg', 'half.jpg']));
  isWhole = false;
  put('broken.jpg');
  await eventually(() => expect(handled.slice(2)).toEqual(['broken.jpg', 'broken.jpg, last']));
  await later(2_000);
  expect(handled).toHaveLength(4);
});

it('hands out a file again that has changed', async () => {
  const { handled } = watching();
  put('a.jpg');
  await eventually(() => expect(handled).toHaveLength(1));
  utimesSync(join(folder, 'a.jpg'), 1, 1);
  await eventually(() => expect(handled).toHaveLength(2));
});

it('says that the folder is away and is back, and goes on', async () => {
  const { handled, told } = watching();
  put('a.jpg');
  await eventually(() => expect(handled).toEqual(['a.jpg']));
  renameSync(folder, `${folder}-away`);
  await eventually(() => expect(told).toEqual([expect.stringMatching(/./)]));
  await later(200);
  renameSync(`${folder}-away`, folder);
  put('b.jpg');
  await eventually(() => expect(handled).toEqual(['a.jpg', 'b.jpg']));
  expect(told).toEqual([expect.any(String), null]);
});

it('begins nothing while it may not', async () => {
  let may = false;
  const { handled } = watching(undefined, { mayBegin: () => Promise.resolve(may) });
  put('a.jpg');
  await later(250);
  expect(handled).toEqual([]);
  may = true;
  await eventually(() => expect(handled).toEqual(['a.jpg']));
});

it('waits at its end for what is in work, and begins nothing more', async () => {
  let finish: (handled: Handled) => void = () => undefined;
  const { handled } = watching(() => new Promise((done) => (finish = done)));
  put('a.jpg');
  await eventually(() => expect(handled).toEqual(['a.jpg']));
  watch?.stop();
  put('b.jpg');
  let isOver = false;
  void running?.then(() => (isOver = true));
  await later(300);
  expect(isOver).toBe(false);
  finish('done');
  await running;
  expect(handled).toEqual(['a.jpg']);
});

it('goes on after a failure that nobody expected, in a look or with a photo', async () => {
  let times = 0;
  const fails = (): void => {
    if (times++ === 0) throw new Error('the disk is full');
  };
  let looks = 0;
  const { handled, told } = watching(() => (fails(), 'done'), {
    mayBegin: () => (looks++ === 0 ? Promise.reject(new Error('busy')) : Promise.resolve(true)),
  });
  put('a.jpg');
  await eventually(() =>
    expect(handled.map((name) => name.split(',')[0])).toEqual(['a.jpg', 'a.jpg']),
  );
  expect(told).toEqual(['busy', null]);
  await later(700);
  expect(handled).toHaveLength(2);
});

it('takes thousands at once', async () => {
  const names = Array.from({ length: 3_000 }, (_, index) => `${index}.jpg`);
  for (const name of names) put(name);
  const { handled } = watching();
  await eventually(() => expect(handled).toHaveLength(names.length));
  expect(new Set(handled).size).toBe(names.length);
});

it('a sweep gives names in order, with sizes and times', async () => {
  for (const name of ['10.jpg', '9.jpg']) put(name, name);
  utimesSync(join(folder, '9.jpg'), 5, 5);
  const found = await sweepFolder(folder);
  expect(found.ok && found.value.map(({ name }) => name)).toEqual(['9.jpg', '10.jpg']);
  expect(found.ok && found.value[0]).toMatchObject({ bytes: 5, modifiedMs: 5_000 });
  expect((await sweepFolder(join(folder, 'none'))).ok).toBe(false);
});
