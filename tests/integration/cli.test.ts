import { execFile, spawn } from 'node:child_process';
import {
  copyFileSync,
  existsSync,
  linkSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { presetRuleSchema } from '#core/contract/preset';
import { placeMark } from '#core/placement/placeMark';
import { openPdf } from '../helpers/readPdf.ts';
import { temporaryFolder } from '../helpers/house.ts';
import { MARK_SVG, writeCameraJpeg, writeJpeg } from '../helpers/makePhoto.ts';

const BIN = fileURLToPath(new URL('../../bin/light-crest', import.meta.url));
const DEMO = fileURLToPath(new URL('../../demo', import.meta.url));

let folder: string;
beforeAll(async () => {
  folder = temporaryFolder();
  mkdirSync(join(folder, 'Shore'));
  await writeCameraJpeg(join(folder, 'Shore', 'b 2.jpg'), { width: 600, height: 400 });
  await writeJpeg(join(folder, 'Shore', 'a 10.jpg'), { width: 400, height: 600, seed: 2 });
  await writeJpeg(join(folder, 'lone.jpg'), { width: 300, height: 200, seed: 3 });
  writeFileSync(join(folder, 'mark.svg'), MARK_SVG);
  writeFileSync(join(folder, 'broken.jpg'), 'no photo');
});
afterAll(() => rmSync(folder, { recursive: true }));

/** Called by its path from another folder, with pipes instead of a terminal. */
interface Call {
  readonly status: number;
  readonly out: string;
  readonly err: string;
}

const call = (...words: string[]): Promise<Call> => callWith({}, words);

function callWith(more: NodeJS.ProcessEnv, words: readonly string[]): Promise<Call> {
  const env = { ...process.env, ...more };
  return new Promise((done) => {
    execFile(BIN, words, { cwd: folder, maxBuffer: 1e8, env }, (error, out, err) => {
      done({ status: error ? Number(error.code) : 0, out, err });
    });
  });
}

function file(name: string, content: object): string {
  writeFileSync(join(folder, name), JSON.stringify(content));
  return name;
}

const preset = { format: 'light-crest/preset', version: 1, name: 'Top' };
const delivery = { format: 'light-crest/delivery', version: 1, name: 'Small' };

describe('a call whose reader has seen enough', () => {
  it('does what was asked for, and says nothing of it', async () => {
    const words = ['apply', '--mark', 'mark.svg', '--out', 'unread', 'Shore', 'lone.jpg'];
    const child = spawn(BIN, words, { cwd: folder, stdio: ['ignore', 'pipe', 'pipe'] });
    child.stdout.destroy();
    let err = '';
    child.stderr.on('data', (part: Buffer) => (err += part.toString()));
    const status = await new Promise((done) => child.on('close', done));
    expect([status, err]).toEqual([0, '']);
    expect(readdirSync(join(folder, 'unread'))).toHaveLength(3);
  });
});

describe('check', () => {
  it('tells how well the mark reads, and what can be cropped free of it, writing nothing', async () => {
    for (const [name, grey] of [
      ['bright', 245],
      ['dark', 12],
    ] as const) {
      const background = { r: grey, g: grey, b: grey };
      await sharp({ create: { width: 640, height: 480, channels: 3, background } })
        .jpeg()
        .toFile(join(folder, `${name}.jpg`));
    }
    const before = readdirSync(folder);
    const light = { tone: { rule: 'fixed', tone: 'light' }, opacity: 1, anchor: 'bottom-left' };
    const made = await call(
      ...['check', '--mark', 'mark.svg', '--json', '--preset'],
      file('light.preset.json', { ...preset, ...light, size: { basis: 'width', value: 25 } }),
      ...['bright.jpg', 'dark.jpg', 'broken.jpg'],
    );
    expect(made.status).toBe(1);
    const [bright, dark, broken] = made.out
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line));
    expect(bright).toMatchObject({
      ...{ source: 'bright.jpg', frame: { width: 640, height: 480 }, tone: 'light' },
      readability: { class: 'lost', share: 0 },
    });
    expect(dark.readability).toMatchObject({ class: 'clear', share: 1 });
    expect(dark.readability.contrast).toBeGreaterThan(80);
    expect(dark.clean_crop).toBeGreaterThan(0.6);
    expect(dark.copies).toHaveLength(1);
    expect(dark).not.toHaveProperty('output');
    expect(dark).not.toHaveProperty('bytes');
    expect(broken).toMatchObject({ status: 'failed', readability: null });
    expect(readdirSync(folder).filter((name) => !before.includes(name))).toEqual([
      'light.preset.json',
    ]);
  });

  it('says the same in words, and agrees with what apply prints', async () => {
    const words = await call('check', '--mark', 'mark.svg', 'dark.jpg');
    expect(words.out).toMatch(/dark\.jpg: clear \(\d+ % reads, .* can be cropped free of the mark/);
    const checked = await call('check', '--mark', 'mark.svg', '--json', 'dark.jpg');
    const applied = await call('apply', '--mark', 'mark.svg', '--json', '--out', 'o', 'dark.jpg');
    const [one, other] = [checked.out, applied.out].map((line) => JSON.parse(line).readability);
    expect(other).toEqual(one);
    rmSync(join(folder, 'o'), { recursive: true });
  });

  it('fails a photo that is not there like a bad one', async () => {
    const gone = await call('check', '--mark', 'mark.svg', '--json', 'nothing.jpg');
    expect(gone.status).toBe(1);
    expect(JSON.parse(gone.out).error).toContain('not there');
  });
});

describe('apply', () => {
  it('marks photos and folders, and prints a line of JSON for each output in order', async () => {
    const made = await call(
      ...['apply', '--mark', 'mark.svg', '--out', 'out', '--json', '--preset'],
      file('p.preset.json', { ...preset, anchor: 'top', tone: { rule: 'fixed', tone: '#ff0000' } }),
      '--delivery',
      file('d.delivery.json', {
        ...delivery,
        resize: { px: 200 },
        name_pattern: '{batch} {number:2} {date} {name}',
      }),
      ...['Shore', 'lone.jpg'],
    );
    expect(made.status).toBe(0);
    expect(made.err).toBe('');
    const lines = made.out
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line));
    expect(lines.map((line) => line.source)).toEqual([
      'Shore/a 10.jpg',
      'Shore/b 2.jpg',
      'lone.jpg',
    ]);
    expect(lines[1]).toMatchObject({
      ...{ delivery: 'Small', status: 'written', error: null, tone: '#ff0000', anchor: 'top' },
      ...{ output: 'out/Shore 02 2026-04-11 b 2.jpg', frame: { width: 200, height: 133 } },
      ...{ reduced: false, rescued: false },
    });
    const [copy] = lines[1].copies;
    expect(copy.size.width).toBeCloseTo(28, 6);
    expect(copy.box.y).toBeCloseTo(133 * 0.03, 6);
    expect(lines[1].clean_crop).toBeGreaterThan(0.7);
    expect(lines[1].bytes.after).toBe(readFileSync(join(folder, lines[1].output)).length);
    for (const line of lines) await sharp(join(folder, line.output)).stats();
  });

  it('reports a photo that is bad or missing, does the others, and ends with 1', async () => {
    const made = await call(
      'apply',
      '--mark',
      'mark.svg',
      '--out',
      'out2',
      '--json',
      'broken.jpg',
      'gone.jpg',
      'lone.jpg',
    );
    expect(made.status).toBe(1);
    const lines = made.out
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line));
    expect(lines.map((line) => line.status)).toEqual(['failed', 'failed', 'written']);
    expect(lines[0]).toMatchObject({ output: null, error: expect.stringContaining('not a photo') });
    expect(lines[1].error).toContain('gone.jpg is not there');
    expect(made.err).toContain('light-crest: gone.jpg: gone.jpg is not there');
    expect(readdirSync(join(folder, 'out2'))).toEqual(['lone-web.jpg']);
  });

  it('never writes over a photo, and counts past it', async () => {
    const words = ['apply', '--mark', 'mark.svg', '--out', '.', 'lone.jpg', '--delivery'];
    const before = readFileSync(join(folder, 'lone.jpg'));
    const replacing = file('r.delivery.json', {
      ...delivery,
      name_pattern: '{name}',
      existing: 'replace',
    });
    const refused = await call(...words, replacing);
    expect(refused.status).toBe(1);
    expect(refused.err).toContain('originals are never replaced');
    const numbered = await call(
      ...words,
      file('n.delivery.json', { ...delivery, name_pattern: '{name}' }),
    );
    expect(numbered.out).toBe('lone-2.jpg\n');
    expect(readFileSync(join(folder, 'lone.jpg')).equals(before)).toBe(true);
  });

  it('skips what exists, which counts as done', async () => {
    const skipping = file('s.delivery.json', { ...delivery, existing: 'skip' });
    const words = [
      'apply',
      '--mark',
      'mark.svg',
      '--out',
      'out3',
      '--delivery',
      skipping,
      'lone.jpg',
    ];
    expect((await call(...words)).out).toBe('out3/lone-web.jpg\n');
    const again = await call(...words);
    expect(again.status).toBe(0);
    expect(again.err).toContain('skipped');
  });

  it('writes one output for each delivery', async () => {
    const a = file('a.delivery.json', {
      ...delivery,
      name: 'A',
      name_pattern: '{name} {delivery}',
    });
    const b = file('b.delivery.json', {
      ...delivery,
      name: 'B',
      name_pattern: '{name} {delivery}',
      file: { type: 'png' },
    });
    await call(
      'apply',
      '--mark',
      'mark.svg',
      '--out',
      'out4',
      '--delivery',
      a,
      '--delivery',
      b,
      'lone.jpg',
    );
    expect(readdirSync(join(folder, 'out4')).sort()).toEqual(['lone A.jpg', 'lone B.png']);
  });

  it('takes as many photos at once as it is told, and says what is no number', async () => {
    const words = ['apply', '--mark', 'mark.svg', '--out', 'out jobs', 'lone.jpg', '--jobs'];
    expect((await call(...words, '1')).out).toBe('out jobs/lone-web.jpg\n');
    const wrong = await call(...words, 'many');
    expect(wrong.status).toBe(2);
    expect(wrong.err).toContain('from 1 to 64 for --jobs, found "many"');
  });

  it('clears what a killed call left, but not what a running one needs', async () => {
    mkdirSync(join(folder, 'out5'));
    const dead = join(folder, 'out5', '.light-crest-999999999-1.part');
    const alive = join(folder, 'out5', `.light-crest-${process.pid}-1.part`);
    writeFileSync(dead, 'half');
    writeFileSync(alive, 'half');
    await call('apply', '--mark', 'mark.svg', '--out', 'out5', 'lone.jpg');
    expect([existsSync(dead), existsSync(alive)]).toEqual([false, true]);
  });

  it.each([
    [['--mark', 'gone.svg'], 'gone.svg is not there'],
    [['--mark', 'broken.jpg'], 'found a file that is none'],
    [
      ['--mark', 'mark.svg', '--preset', 'bad.json'],
      'unknown key "opactiy". Did you mean "opacity"?',
    ],
    [['--mark', 'mark.svg', '--delivery', 'mark.svg'], 'expected JSON'],
    [['--mark', 'mark.svg', '--mystery'], "unknown option '--mystery'"],
    [[], "required option '--mark <file>' not specified"],
  ])('says what is wrong with a call and ends with 2: %j', async (words, sentence) => {
    file('bad.json', { ...preset, opactiy: 1 });
    const made = await call('apply', ...words, '--out', 'out6', 'lone.jpg');
    expect(made.status).toBe(2);
    expect(made.err).toContain(sentence);
    expect(made.out).toBe('');
    expect(existsSync(join(folder, 'out6'))).toBe(false);
  });

  it('marks all demo photos with a demo mark', async () => {
    const out = join(folder, 'demo');
    const made = await call(
      'apply',
      '--mark',
      join(DEMO, 'marks', 'crest-logo.svg'),
      '--out',
      out,
      join(DEMO, 'photos'),
    );
    expect(made.status).toBe(0);
    expect(readdirSync(out)).toHaveLength(24);
    for (const name of readdirSync(out)) await sharp(join(out, name)).stats();
  });
});

describe('verify', () => {
  let two: string;
  beforeAll(async () => {
    // Two of one size would be copies of one mark.
    const sizes = { 'bottom-right': 20, 'top-left': 35 };
    const marks = Object.entries(sizes).flatMap(([anchor, value]) => {
      const size = { basis: 'long-side', value };
      const name = file(`${anchor}.preset.json`, { ...preset, anchor, size });
      return ['--mark', 'mark.svg', '--preset', name];
    });
    two = (await call('apply', ...marks, '--out', 'out verify', 'Shore/b 2.jpg')).out.trim();
  });

  it('finds as many marks as were laid, and fails what else differs', async () => {
    const words = ['verify', 'Shore/b 2.jpg', two];
    const good = await call(...words, '--marks', '2', '--json');
    expect([good.status, good.err]).toEqual([0, '']);
    const found = JSON.parse(good.out);
    expect(found).toMatchObject({
      decodes: true,
      frame: { width: 600, height: 400 },
      orientation: 1,
    });
    expect(found).toMatchObject({ problem: null, mark: { found: true, box: found.marks[0] } });
    const places = found.marks
      .map(({ x }: { x: number }) => x)
      .sort((a: number, b: number) => a - b);
    expect(places).toEqual([expect.closeTo(12, -1), expect.closeTo(468, -1)]);
    const one = await call(...words);
    expect(one.status).toBe(1);
    expect(one.err).toContain('elsewhere than at one mark');
  });

  it('tells of a photo without a mark, which is as it should be where none was laid', async () => {
    const words = ['verify', 'Shore/b 2.jpg', 'Shore/b 2.jpg'];
    const none = await call(...words);
    expect([none.status, none.out]).toEqual([1, expect.stringContaining('no mark found')]);
    expect((await call(...words, '--marks', '0')).status).toBe(0);
    const { status, err } = await call('verify', 'Shore/b 2.jpg', two, '--marks', '0');
    expect([status, err]).toEqual([1, expect.stringContaining('no mark was to be laid')]);
  });

  it('refuses numbers of marks that no photo can have', async () => {
    const { status, err } = await call('verify', 'lone.jpg', two, '--marks', '9');
    expect([status, err]).toEqual([
      2,
      expect.stringContaining('from 0 to 8 for --marks, found "9"'),
    ]);
  });
});

describe('schema', () => {
  it.each(['preset', 'delivery'])('prints the published schema of a %s', async (kind) => {
    const printed = await call('schema', kind);
    const path = new URL(`../../docs/schema/${kind}.schema.json`, import.meta.url);
    expect(JSON.parse(printed.out)).toEqual(JSON.parse(readFileSync(path, 'utf8')));
  });

  it('knows no other', async () => {
    const made = await call('schema', 'mark');
    expect(made.status).toBe(2);
    expect(made.err).toContain('expected preset or delivery, found "mark"');
  });
});

describe('lift', () => {
  const scanFile = join(DEMO, 'marks', 'signature-scan.png');

  it('writes the ink box’s pixels: black, alpha carrying the coverage', async () => {
    const made = await call('lift', scanFile, '--out', 'ink.png', '--svg', 'ink.svg', '--json');
    expect(made.status).toBe(0);
    const report = JSON.parse(made.out);
    expect(Object.keys(report).sort()).toEqual(
      ['height', 'ink_box', 'output', 'paper_evenness', 'specks_removed', 'width'].sort(),
    );
    expect(report).toMatchObject({ output: 'ink.png', width: report.ink_box.width });
    expect(report.paper_evenness).toBeGreaterThan(0.9);
    expect(report.specks_removed).toBeGreaterThan(0);
    const { data, info } = await sharp(join(folder, 'ink.png'))
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect([info.width, info.height, info.channels]).toEqual([report.width, report.height, 4]);
    let full = 0;
    for (let at = 0; at < data.length; at += 4) {
      expect(data[at] + data[at + 1] + data[at + 2]).toBe(0);
      if (data[at + 3] > 250) full++;
    }
    expect(full / (data.length / 4)).toBeGreaterThan(0.1);
    expect(readFileSync(join(folder, 'ink.svg'), 'utf8')).toMatch(/^<svg [^>]*viewBox/);
  });

  it('turns clockwise before it crops, and tells the box relative to the crop', async () => {
    const whole = JSON.parse((await call('lift', scanFile, '--out', 'a.png', '--json')).out);
    const turned = await call(
      ...['lift', scanFile, '--turn', '90', '--crop', '100,50,1600,2400', '--out', 'b.png'],
      '--json',
    );
    const { ink_box: box } = JSON.parse(turned.out);
    // Clockwise: what was x from the left is y from the top, what was y is x from the right.
    const right = 1748 - (whole.ink_box.y + whole.ink_box.height);
    expect(Math.abs(box.x - (right - 100))).toBeLessThanOrEqual(2);
    expect(Math.abs(box.y - (whole.ink_box.x - 50))).toBeLessThanOrEqual(2);
    expect(Math.abs(box.width - whole.ink_box.height)).toBeLessThanOrEqual(3);
  });

  it('says that writing runs up or down, unless a turn was asked for', async () => {
    const background = { r: 240, g: 238, b: 230 };
    const line = { width: 24, height: 700, channels: 3 } as const;
    const ink = await sharp({ create: { ...line, background: '#111' } })
      .png()
      .toBuffer();
    await sharp({ create: { width: 600, height: 1_000, channels: 3, background } })
      .composite([{ input: ink, left: 280, top: 150 }])
      .png()
      .toFile(join(folder, 'upright.png'));
    const asItIs = await call('lift', 'upright.png', '--out', 'up.png');
    expect(asItIs.status).toBe(0);
    expect(asItIs.err).toContain('runs up or down; --turn 90 or --turn 270');
    const turned = await call('lift', 'upright.png', '--turn', '0', '--out', 'up2.png');
    expect(turned.err).not.toContain('runs up or down');
  });

  it.each([
    ['no ink', ['--crop', '0,0,200,150'], 1, 'No ink'],
    ['a turn that is none', ['--turn', '45'], 2, 'expected 0, 90, 180, 270, found 45'],
    ['a crop beyond the sheet', ['--crop', '0,0,9000,10'], 2, 'one beyond it'],
    ['a crop that is none', ['--crop', '1,2,3'], 2, 'x,y,w,h'],
  ])('%s', async (_, words, status, sentence) => {
    const made = await call('lift', scanFile, '--out', 'never.png', ...words);
    expect(made.status).toBe(status);
    expect(made.err).toContain(sentence);
    expect(existsSync(join(folder, 'never.png'))).toBe(false);
  });

  it('never writes over the scan, by either of its outputs', async () => {
    const scan = join(folder, 'precious.png');
    copyFileSync(scanFile, scan);
    const before = readFileSync(scan);
    for (const words of [
      ['--out', 'precious.png'],
      ['--out', 'precious.png', '--force'],
      ['--out', 'same.png', '--svg', 'same.svg', '--force'],
    ]) {
      symlinkSync(scan, join(folder, 'same.svg'));
      const made = await call('lift', 'precious.png', ...words);
      expect(made.status).toBe(2);
      rmSync(join(folder, 'same.svg'), { force: true });
    }
    expect(readFileSync(scan).equals(before)).toBe(true);
    expect(existsSync(join(folder, 'same.png'))).toBe(false);
  });

  it('refuses what is no scan', async () => {
    const made = await call('lift', 'broken.jpg', '--out', 'never.png');
    expect(made.status).toBe(2);
  });
});

describe('mark', () => {
  it('gives a PNG of a width and tone', async () => {
    const made = await call(
      ...['mark', 'mark.svg', '--out', 'm.png', '--tone', '#ff8000', '--width', '410'],
    );
    expect([made.status, made.out]).toEqual([0, '']);
    const { data, info } = await sharp(join(folder, 'm.png'))
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect(info.width).toBe(410);
    const solid = data.findIndex((value, at) => at % 4 === 3 && value === 255) - 3;
    expect([...data.subarray(solid, solid + 3)]).toEqual([255, 128, 0]);
  });

  it.each([
    { frame: '1920x1080', width: 1_920, height: 1_080 },
    { frame: '1080x1920', width: 1_080, height: 1_920 },
    { frame: '3840x2160', width: 3_840, height: 2_160 },
  ])('gives a whole transparent frame of $frame with the mark in its place', async (size) => {
    const { frame, ...whole } = size;
    const rule = {
      ...{ anchor: 'top-left', size: { basis: 'width', value: 25 }, opacity: 0.5 },
      ...{ tone: { tone: '#3060f0' }, inset: { unit: 'percent', x: 6, y: 4 } },
    };
    const head = { format: 'light-crest/preset', version: 1, name: 'High left' };
    writeFileSync(join(folder, 'frame.preset.json'), JSON.stringify({ ...head, ...rule }));
    const words = ['--out', `${frame}.png`, '--frame', frame, '--preset', 'frame.preset.json'];
    const made = await call('mark', 'mark.svg', ...words);
    expect([made.status, made.out, made.err]).toEqual([0, '', '']);
    const { data, info } = await sharp(join(folder, `${frame}.png`))
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect([info.width, info.height, info.channels]).toEqual([whole.width, whole.height, 4]);
    const placed = placeMark(whole, 200 / 80, presetRuleSchema.parse(rule), {});
    if (!placed.ok) throw new Error(placed.reason);
    const { box } = placed.value.copies[0];
    const edges = { left: info.width, top: info.height, right: -1, bottom: -1 };
    let [most, others] = [0, 0];
    for (let y = 0, at = 0; y < info.height; y++) {
      for (let x = 0; x < info.width; x++, at += 4) {
        const alpha = data[at + 3];
        if (alpha === 0) continue;
        most = Math.max(most, alpha);
        const isInk = data[at] === 0x30 && data[at + 1] === 0x60 && data[at + 2] === 0xf0;
        if (alpha > 100 && !isInk) others++;
        edges.left = Math.min(edges.left, x);
        edges.right = Math.max(edges.right, x + 1);
        edges.top = Math.min(edges.top, y);
        edges.bottom = Math.max(edges.bottom, y + 1);
      }
    }
    expect(others).toBe(0);
    expect(Math.abs(most - 127.5)).toBeLessThan(1);
    expect(Math.abs(edges.left - box.x)).toBeLessThanOrEqual(1);
    expect(Math.abs(edges.top - box.y)).toBeLessThanOrEqual(1);
    expect(Math.abs(edges.right - box.x - box.width)).toBeLessThanOrEqual(1);
    expect(Math.abs(edges.bottom - box.y - box.height)).toBeLessThanOrEqual(1);
  });

  it.each([
    [['--frame', '1920'], 'expected a width and height in px'],
    [['--frame', '0x10'], 'expected a width and height in px'],
    [['--frame', '16000x16000'], 'expected at most'],
    [['--frame', '100x100', '--width', '20'], 'expected without --frame'],
    [['--preset', 'frame.preset.json'], 'expected beside --frame'],
  ])('refuses %j', async (words, problem) => {
    const made = await call('mark', 'mark.svg', '--out', 'refused.png', ...words);
    expect(made.status).toBe(2);
    expect(made.err).toContain(problem);
    expect(existsSync(join(folder, 'refused.png'))).toBe(false);
  });

  it('gives an SVG that it takes again', async () => {
    expect((await call('mark', 'mark.svg', '--out', 'one.svg')).status).toBe(0);
    expect((await call('mark', 'one.svg', '--out', 'two.svg')).status).toBe(0);
    const text = readFileSync(join(folder, 'two.svg'), 'utf8');
    expect(text).toContain('light-crest/mark');
    expect(text).toBe(readFileSync(join(folder, 'one.svg'), 'utf8'));
  });

  it.each(['itself', 'a hard link to it', 'a link to it'])(
    'never writes over the file it was given: %s',
    async (way) => {
      const given = 'precious.svg';
      copyFileSync(join(folder, 'mark.svg'), join(folder, given));
      const out = way === 'itself' ? given : 'other-name.svg';
      rmSync(join(folder, 'other-name.svg'), { force: true });
      if (way === 'a hard link to it') linkSync(join(folder, given), join(folder, out));
      if (way === 'a link to it') symlinkSync(join(folder, given), join(folder, out));
      const before = readFileSync(join(folder, given));
      for (const words of [[], ['--force']]) {
        const made = await call('mark', given, '--out', out, '--tone', 'light', ...words);
        expect(made.status).toBe(2);
        expect(made.err).toContain('never written over');
      }
      expect(readFileSync(join(folder, given)).equals(before)).toBe(true);
    },
  );

  it('leaves another file of that name, unless it is told to replace it', async () => {
    writeFileSync(join(folder, 'theirs.png'), 'theirs');
    const words = ['mark', 'mark.svg', '--out', 'theirs.png', '--width', '40'];
    const refused = await call(...words);
    expect([refused.status, readFileSync(join(folder, 'theirs.png'), 'utf8')]).toEqual([
      2,
      'theirs',
    ]);
    expect(refused.err).toContain('--force');
    expect((await call(...words, '--force')).status).toBe(0);
    expect((await sharp(join(folder, 'theirs.png')).metadata()).width).toBe(40);
    expect(readdirSync(folder).filter((name) => name.endsWith('.part'))).toEqual([]);
  });

  it.each([
    [['mark.svg', '--out', 'm.gif'], '.png or .svg'],
    [['mark.svg', '--out', 'm.png', '--tone', 'pale'], 'light, dark, original or #rrggbb'],
    [['mark.svg', '--out', 'm.png', '--width', '0'], 'from 1 to 16000'],
    [['broken.jpg', '--out', 'm.png'], 'found a file that is none'],
  ])('%j is a wrong call', async (words, sentence) => {
    const made = await call('mark', ...words);
    expect(made.status).toBe(2);
    expect(made.err).toContain(sentence);
  });
});

describe('the command line as it is built', () => {
  const dist = fileURLToPath(new URL('../../dist', import.meta.url));

  it('builds itself where it is not yet, though several are called at once', async () => {
    // Apart from the builds that other tests, or a demo, run from at this moment.
    mkdirSync(dist, { recursive: true });
    const builds = mkdtempSync(join(dist, 'node-of-tests-'));
    try {
      const words = [['--help'], ['--help'], ['schema', 'preset']];
      const calls = await Promise.all(
        words.map((some) => callWith({ LIGHT_CREST_BUILDS: builds }, some)),
      );
      expect(calls.map(({ status }) => status)).toEqual([0, 0, 0]);
      expect(JSON.parse(calls[2].out)).toHaveProperty('$schema');
      // One build is left, and nothing of the others.
      expect(readdirSync(builds)).toHaveLength(1);
      expect(readdirSync(builds)[0]).toMatch(/^[0-9a-f]{16}$/);
    } finally {
      rmSync(builds, { recursive: true, force: true });
    }
  });
});

describe('a delivery to paper', () => {
  const sheet = { paper: 'a6', grid: { columns: 2, rows: 2 }, caption: {} };
  const proofs = { ...delivery, name: 'Proofs', kind: 'sheet', name_pattern: '{batch} {delivery}' };

  it('makes one PDF of all photos, and tells of each that it is in it, or why not', async () => {
    mkdirSync(join(folder, 'proofs'));
    const path = file('proofs.json', { ...proofs, sheet });
    const words = ['apply', '--mark', 'mark.svg', '--delivery', path, '--out', 'proofs', '--json'];
    const { status, out } = await call(...words, 'Shore', 'broken.jpg', 'lone.jpg');
    expect(status).toBe(1);
    const lines = out
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as Record<string, unknown>);
    expect(lines.map((line) => [line.status, line.output])).toEqual([
      ['written', join('proofs', 'Shore Proofs.pdf')],
      ['written', join('proofs', 'Shore Proofs.pdf')],
      ['failed', null],
      ['written', join('proofs', 'Shore Proofs.pdf')],
    ]);
    expect(readdirSync(join(folder, 'proofs'))).toEqual(['Shore Proofs.pdf']);
    const pdf = await openPdf(join(folder, 'proofs', 'Shore Proofs.pdf'));
    expect(pdf.pages).toBe(1);
    expect((await pdf.page(1)).images).toHaveLength(3);
    await pdf.close();
  });

  it('goes with one of files in the same call, and as pictures', async () => {
    mkdirSync(join(folder, 'both'));
    const pictures = file('pictures.json', {
      ...proofs,
      sheet: { as: 'jpeg', dpi: 72, paper: 'a6', lies: 'photo' },
    });
    const files = file('files.json', { ...delivery, resize: { px: 200 } });
    const words = ['apply', '--mark', 'mark.svg', '--delivery', pictures, '--delivery', files];
    const { status } = await call(...words, '--out', 'both', 'Shore');
    expect(status).toBe(0);
    expect(readdirSync(join(folder, 'both')).sort()).toEqual([
      'Shore Proofs 1.jpg',
      'Shore Proofs 2.jpg',
      'a 10-web.jpg',
      'b 2-web.jpg',
    ]);
    const upright = await sharp(join(folder, 'both', 'Shore Proofs 1.jpg')).metadata();
    expect((upright.width ?? 0) < (upright.height ?? 0)).toBe(true);
  });

  it('is refused where a folder is watched', async () => {
    const path = file('watched.json', { ...proofs, sheet });
    const words = ['watch', 'Shore', '--mark', 'mark.svg', '--delivery', path, '--out', 'proofs'];
    const { status, err } = await call(...words);
    expect([status, err]).toEqual([2, expect.stringContaining('all photos together')]);
  });
});
