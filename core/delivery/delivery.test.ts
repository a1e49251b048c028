import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fileSchema, resizeSchema } from '../contract/delivery.ts';
import { decideName, nameKey } from './conflicts.ts';
import { estimatedBytes } from './estimatedBytes.ts';
import {
  namePatternProblem,
  outputName,
  safeName,
  tellsPhotosApart,
  type NameValues,
} from './namePattern.ts';
import { resizeFrame } from './resizeFrame.ts';

const values: NameValues = {
  name: 'NC26_0030',
  number: 7,
  date: '2026-04-11',
  batch: 'Harbour / night',
  preset: 'Low right',
  delivery: 'Web',
  width: 2048,
  height: 1365,
};

describe('name patterns', () => {
  it.each([
    ['{name}-web', 'NC26_0030-web'],
    ['{number:4} {name}', '0007 NC26_0030'],
    ['{date} {batch}', '2026-04-11 Harbour _ night'],
    ['{preset}_{delivery}_{width}x{height}', 'Low right_Web_2048x1365'],
    ['{number}', '7'],
    ['Zoë 🌊 {name}', 'Zoë 🌊 NC26_0030'],
  ])('%s gives %s', (pattern, name) => {
    expect(namePatternProblem(pattern)).toBeNull();
    expect(outputName(pattern, values)).toBe(name);
  });

  it('falls back to the photo’s name where nothing is left', () => {
    expect(outputName('{date}', { ...values, date: '' })).toBe('NC26_0030');
    expect(outputName('{date}', { ...values, date: '', name: '...' })).toBe('photo');
  });

  it.each([
    '',
    '  ',
    '{nme}',
    '{number:0}',
    '{number:12}',
    '{name:3}',
    '{name',
    'name}',
    'a/b',
    'a\\b',
  ])('refuses "%s"', (pattern) => {
    expect(namePatternProblem(pattern)).toContain('a name pattern');
  });

  it('is a name that common file systems take, whatever a photo is called', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 400 }), (text) => {
        const name = safeName(text);
        expect(name).not.toMatch(/[\p{Cc}<>:"/\\|?*]/u);
        expect(name).not.toMatch(/[. ]$/);
        expect(new TextEncoder().encode(name).length).toBeLessThanOrEqual(220);
      }),
      { seed: 3, numRuns: 300 },
    );
  });

  it.each(['CON', 'nul', 'com1', 'Aux.photo'])('does not use the reserved name %s', (name) => {
    expect(safeName(name)).toBe(`_${name}`);
  });
});

describe('resize rules', () => {
  const photo = { width: 6000, height: 4000 };
  it.each([
    [{ rule: 'long-side', px: 2048 }, 2048, 1365],
    [{ rule: 'short-side', px: 1000 }, 1500, 1000],
    [{ rule: 'width', px: 300 }, 300, 200],
    [{ rule: 'height', px: 300 }, 450, 300],
    [{ rule: 'within', px: 1920, px2: 1080 }, 1620, 1080],
    [{ rule: 'within', px: 900 }, 900, 600],
    [{ rule: 'megapixels', px: 6 }, 3000, 2000],
    [{ rule: 'long-side', px: 9000 }, 6000, 4000],
    [{ rule: 'long-side', px: 9000, enlarge: true }, 9000, 6000],
  ] as const)('%j gives %d × %d', (rule, width, height) => {
    expect(resizeFrame(photo, resizeSchema.parse(rule))).toEqual({ width, height });
  });

  it('keeps the size without a rule and at least one pixel with one', () => {
    expect(resizeFrame(photo, null)).toEqual(photo);
    const sliver = { width: 10_000, height: 3 };
    expect(resizeFrame(sliver, resizeSchema.parse({ px: 100 }))).toEqual({ width: 100, height: 1 });
  });
});

describe('names that are taken', () => {
  const lookup = (run: string[], folder: string[]) => ({
    byRun: (name: string) => run.includes(name),
    inFolder: (name: string) => Promise.resolve(folder.includes(name)),
  });

  it.each([
    ['number', [], [], 'write', 'a.jpg', false],
    ['number', [], ['a.jpg', 'a-2.jpg'], 'write', 'a-3.jpg', false],
    ['replace', [], ['a.jpg'], 'write', 'a.jpg', true],
    ['skip', [], ['a.jpg'], 'skip', 'a.jpg', undefined],
    // Two photos of one run never share a name, whatever the rule says of older files.
    ['replace', ['a.jpg'], ['a.jpg'], 'write', 'a-2.jpg', false],
    ['skip', ['a.jpg'], ['a.jpg'], 'write', 'a-2.jpg', false],
  ] as const)(
    '%s with %j by the run and %j in the folder',
    async (rule, run, folder, kind, name, replaces) => {
      const decision = await decideName('a', 'jpg', rule, lookup([...run], [...folder]));
      expect(decision.kind).toBe(kind);
      expect(decision.fileName).toBe(name);
      if (decision.kind === 'write') expect(decision.replaces).toBe(replaces);
    },
  );

  it('knows patterns that do not tell photos apart', () => {
    expect(tellsPhotosApart('{batch} {number:3}')).toBe(true);
    expect(tellsPhotosApart('{name}')).toBe(true);
    expect(tellsPhotosApart('{batch} {date}')).toBe(false);
    // What is no pattern yet is said otherwise.
    expect(tellsPhotosApart('{nmae}')).toBe(true);
  });

  it('compares names as the least careful file system does', () => {
    expect(nameKey('Möwe.JPG')).toBe(nameKey('mo\u0308we.jpg'));
  });
});

it('estimates more for larger frames, higher quality and lossless types', () => {
  const file = fileSchema.parse({});
  const frame = { width: 2000, height: 1000 };
  const base = estimatedBytes(frame, file);
  expect(estimatedBytes({ width: 4000, height: 1000 }, file)).toBe(2 * base);
  expect(estimatedBytes(frame, { ...file, quality: 100 })).toBe(2 * base);
  expect(estimatedBytes(frame, { ...file, chroma: '4:2:0' })).toBeLessThan(base);
  expect(estimatedBytes(frame, { ...file, type: 'png' })).toBeGreaterThan(3 * base);
  const tiff = { ...file, type: 'tiff' } as const;
  expect(estimatedBytes(frame, tiff, { bits: 16 })).toBeGreaterThan(
    2 * estimatedBytes(frame, tiff),
  );
  expect(estimatedBytes(frame, file, { bits: 16 })).toBe(base);
  expect(estimatedBytes(frame, { ...file, max_bytes: 10_000 })).toBe(10_000);
  const untouched = { ...file, quality: 'untouched' } as const;
  expect(estimatedBytes(frame, untouched, { bits: 8, bytes: 123 })).toBe(123);
  expect(estimatedBytes(frame, { ...file, max_bytes: 10 * base })).toBeLessThan(2 * base);
});
