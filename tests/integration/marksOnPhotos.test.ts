import { execFile } from 'node:child_process';
import { copyFileSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { designSchema } from '#core/contract/design';
import { exampleWords } from '#core/lettering/photoWords';
import type { PhotoWords } from '#core/lettering/words';
import { Imaging } from '#server/imaging/pool/imaging';
import { SHIPPED_FONTS_FOLDER } from '#server/lettering/fontBook';
import { builtModule } from '../helpers/built.ts';
import { temporaryFolder } from '../helpers/house.ts';
import { MARK_SVG, writeJpeg } from '../helpers/makePhoto.ts';

/** Marks that follow the photo, by the command line: quiet, upright, several, with words of the photo. */

const BIN = fileURLToPath(new URL('../../bin/light-crest', import.meta.url));

interface Printed {
  readonly source: string;
  readonly output: string | null;
  readonly error: string | null;
  readonly verified?: boolean | null;
  readonly frame: { width: number; height: number };
  readonly tone: string;
  readonly anchor: string;
  readonly opacity: number;
  readonly copies: { box: { x: number; y: number; width: number; height: number } }[];
  readonly readability: { class: string; share: number; weakest: number } | null;
  readonly marks: Omit<Printed, 'source' | 'marks'>[];
}

let folder: string;
let imaging: Imaging;
beforeAll(async () => {
  folder = temporaryFolder();
  imaging = new Imaging(builtModule('imagingProcess'));
  writeFileSync(join(folder, 'mark.svg'), MARK_SVG);
  await grey('dark.png', 20, 1_500, 1_000);
  await grey('middle.png', 110, 1_500, 1_000);
  await grey('white.png', 255, 1_500, 1_000);
  await grey('tall.png', 20, 1_000, 1_500);
  await grey('square.png', 20, 1_000, 1_000);
});
afterAll(() => {
  imaging.close();
  rmSync(folder, { recursive: true });
});

async function grey(name: string, value: number, width: number, height: number): Promise<void> {
  const background = { r: value, g: value, b: value };
  await sharp({ create: { width, height, channels: 3, background } }).toFile(join(folder, name));
}

function call(...words: string[]): Promise<{ status: number; out: Printed[]; err: string }> {
  return new Promise((done) => {
    execFile(BIN, [...words, '--json'], { cwd: folder, maxBuffer: 1e8 }, (error, out, err) => {
      const lines = out.split('\n').filter((line) => line.startsWith('{'));
      const printed = lines.map((line) => JSON.parse(line) as Printed);
      done({ status: error ? Number(error.code) : 0, out: printed, err });
    });
  });
}

function preset(name: string, rule: object): string {
  const head = { format: 'light-crest/preset', version: 1, name };
  writeFileSync(join(folder, `${name}.json`), JSON.stringify({ ...head, ...rule }));
  return `${name}.json`;
}

/** A mark of lettering, as its own file. */
async function lettered(name: string, text: string): Promise<string> {
  const design = designSchema.parse({
    layers: [
      {
        ...{ id: 'words', kind: 'lettering', name: 'Words' },
        lettering: { text, font: { family: 'montserrat', weight: 500 } },
      },
    ],
  });
  const composed = await imaging.composeDesign(design, {}, [SHIPPED_FONTS_FOLDER], name);
  if (!composed.ok) throw new Error(composed.reason);
  writeFileSync(join(folder, `${name}.svg`), composed.value.svg);
  return `${name}.svg`;
}

const LIGHT = { tone: { tone: 'light' } };

describe('other places', () => {
  /** White low right, restless but dark enough high left, calm and dark high right. */
  async function ground(name: string): Promise<void> {
    const [width, height] = [1_500, 1_000];
    const data = Buffer.alloc(width * height * 3, 30);
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const isStriped = x < width / 2 && Math.floor(x / 30 + y / 30) % 2 === 0;
        const value = y > height / 2 ? 255 : isStriped ? 75 : 30;
        data.fill(value, (y * width + x) * 3, (y * width + x) * 3 + 3);
      }
    }
    await sharp(data, { raw: { width, height, channels: 3 } }).toFile(join(folder, name));
  }

  it('are tried as they stand, or the calmest first, in a check and in an export alike', async () => {
    await ground('places.png');
    const places = { ...LIGHT, fallbacks: ['top-left', 'top-right'] };
    const listed = preset('listed', places);
    const calmest = preset('calmest', { ...places, fallback_order: 'calmest' });
    const said = async (command: string, name: string, ...more: string[]) =>
      (await call(command, '--mark', 'mark.svg', '--preset', name, ...more, 'places.png')).out[0];
    const first = await said('check', listed);
    expect([first.anchor, first.readability?.class]).toEqual(['top-left', 'clear']);
    expect((await said('check', calmest)).anchor).toBe('top-right');
    expect((await said('apply', calmest, '--out', 'calm-out')).anchor).toBe('top-right');
  });
});

describe('a quiet mark', () => {
  it('is the stronger the brighter the ground, and as strong as allowed where it never reads', async () => {
    const quiet = preset('quiet', { ...LIGHT, opacity: { rule: 'quiet', least: 0.1, most: 0.9 } });
    const photos = ['dark.png', 'middle.png', 'white.png'];
    const { out } = await call('check', '--mark', 'mark.svg', '--preset', quiet, ...photos);
    const [dark, middle, white] = out.map(({ opacity }) => opacity);
    expect(dark).toBeLessThan(0.4);
    expect(middle).toBeGreaterThan(dark);
    expect(white).toBe(0.9);
    expect(out[1].readability?.class).toBe('clear');
    expect(out[2].readability?.class).not.toBe('clear');
    // One step less would not be clear.
    const less = preset('less', { ...LIGHT, opacity: Number((middle - 0.05).toFixed(2)) });
    const below = await call('check', '--mark', 'mark.svg', '--preset', less, 'middle.png');
    expect(below.out[0].readability?.class).not.toBe('clear');
  });

  it('is exported as strong as it was found', async () => {
    const quiet = preset('found', { ...LIGHT, opacity: { rule: 'quiet' }, size: { value: 40 } });
    const { out } = await call(
      'apply',
      '--mark',
      'mark.svg',
      '--preset',
      quiet,
      '--out',
      'q',
      'dark.png',
    );
    const [{ opacity, output, copies }] = out;
    const { data, info } = await sharp(join(folder, output ?? ''))
      .raw()
      .toBuffer({ resolveWithObject: true });
    const { x, y, width, height } = copies[0].box;
    let brightest = 0;
    for (let row = Math.round(y); row < y + height - 1; row++) {
      for (let column = Math.round(x); column < x + width - 1; column++) {
        brightest = Math.max(brightest, data[(row * info.width + column) * info.channels]);
      }
    }
    expect(brightest).toBeGreaterThan(20 + (255 - 20) * opacity - 6);
    expect(brightest).toBeLessThan(20 + (255 - 20) * opacity + 6);
  });
});

it('takes its upright rule where the output is taller than wide', async () => {
  const rule = {
    anchor: 'bottom-right',
    upright: { anchor: 'top', size: { basis: 'width', value: 50 } },
  };
  const own = preset('upright', { ...LIGHT, ...rule });
  const photos = ['dark.png', 'tall.png', 'square.png'];
  const { out } = await call('check', '--mark', 'mark.svg', '--preset', own, ...photos);
  expect(out.map(({ anchor }) => anchor)).toEqual(['bottom-right', 'top', 'bottom-right']);
  expect(out[1].copies[0].box.width).toBeCloseTo(500, 3);
});

describe('several marks', () => {
  it('lie over each other in order, each with its own preset and reading', async () => {
    const low = preset('low', { ...LIGHT, anchor: 'bottom-left' });
    const high = preset('high', { ...LIGHT, anchor: 'top-right', opacity: 0.5 });
    const two = ['--mark', 'mark.svg', '--preset', low, '--mark', 'mark.svg', '--preset', high];
    const { out, status } = await call('apply', ...two, '--out', 'two', 'dark.png');
    expect(status).toBe(0);
    const [printed] = out;
    expect(printed.marks.map(({ anchor }) => anchor)).toEqual(['bottom-left', 'top-right']);
    expect(printed.marks.map(({ opacity }) => opacity)).toEqual([0.85, 0.5]);
    expect(printed).toMatchObject({ anchor: 'bottom-left', opacity: 0.85 });
    expect(printed.marks[0].copies).toEqual(printed.copies);
    const checked = await call('check', ...two, 'dark.png');
    const classes = (all: Printed[]) => all[0].marks.map(({ readability }) => readability?.class);
    expect(classes(checked.out)).toEqual(classes(out));
  });

  it('are measured on the photo with those below', async () => {
    // A white mark over a white mark of the same place cannot be read; beside it, it can.
    const whole = preset('whole', { ...LIGHT, opacity: 1, anchor: 'centre', size: { value: 60 } });
    const alone = await call('check', '--mark', 'mark.svg', '--preset', whole, 'dark.png');
    expect(alone.out[0].readability?.class).toBe('clear');
    writeFileSync(
      join(folder, 'plate.svg'),
      '<svg xmlns="http://www.w3.org/2000/svg" width="30" height="20"><rect width="30" height="20" fill="#fff"/></svg>',
    );
    const plate = preset('plate', { ...LIGHT, opacity: 1, anchor: 'centre', size: { value: 90 } });
    const both = [
      '--mark',
      'plate.svg',
      '--preset',
      plate,
      '--mark',
      'mark.svg',
      '--preset',
      whole,
    ];
    const { out } = await call('check', ...both, 'dark.png');
    expect(out[0].marks[1].readability?.class).toBe('lost');
  });

  it('of one is what it was without a list, byte for byte', async () => {
    const one = preset('one', { size: { value: 20 } });
    await call('apply', '--mark', 'mark.svg', '--preset', one, '--out', 'a', 'dark.png');
    await call('apply', '--preset', one, '--mark', 'mark.svg', '--out', 'b', 'dark.png');
    const read = (name: string) => readFileSync(join(folder, name, 'dark-web.jpg'));
    expect(read('a').equals(read('b'))).toBe(true);
  });

  it('are a wrong call with a preset too many', async () => {
    const one = preset('any', {});
    const twice = ['--preset', one, '--preset', one];
    const { status, err } = await call('check', '--mark', 'mark.svg', ...twice, 'dark.png');
    expect(status).toBe(2);
    expect(err).toContain('stands beside no mark');
  });
});

describe('words of the photo', () => {
  const XMP = `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF
    xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description rdf:about=""
    xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:photoshop="http://ns.adobe.com/photoshop/1.0/"
    photoshop:City="Quillon Bay"><dc:description><rdf:Alt><rdf:li xml:lang="x-default">Salt &amp; light</rdf:li>
    </rdf:Alt></dc:description></rdf:Description></rdf:RDF></x:xmpmeta>`;

  beforeAll(async () => {
    mkdirSync(join(folder, 'Bay'));
    await writeJpeg(join(folder, 'plain.jpg'), { width: 900, height: 600, seed: 4 });
    await sharp(join(folder, 'plain.jpg'))
      .withExif({
        IFD0: { Artist: 'Ines Marlow', Make: 'Halden', Model: 'Halden 5' },
        IFD2: { DateTimeOriginal: '2024:03:09 07:08:59', LensModel: '35 mm' },
      })
      .withXmp(XMP)
      .toFile(join(folder, 'Bay', 'one.jpg'));
    await writeJpeg(join(folder, 'Bay', 'two.jpg'), { width: 900, height: 600, seed: 5 });
  });

  const onBlack = (words: Partial<PhotoWords>): PhotoWords => ({ ...exampleWords(2024), ...words });

  it('are set as on each photo, and are as wide as they are', async () => {
    const mark = await lettered('numbered', '{number:3} · {name}');
    const rule = preset('numbers', { ...LIGHT, size: { basis: 'height', value: 10 } });
    const { out } = await call('check', '--mark', mark, '--preset', rule, 'Bay');
    for (const [index, name] of ['one', 'two'].entries()) {
      const wanted = await aspectOf('numbered.svg', onBlack({ number: String(index + 1), name }));
      const { width, height } = out[index].copies[0].box;
      expect(width / height).toBeCloseTo(wanted, 4);
    }
  });

  it('come from the notes of camera and photographer', async () => {
    const text = '{date} {time} {camera} {lens} {place} {caption} {artist} {batch}';
    const mark = await lettered('noted', text);
    const rule = preset('notes', { ...LIGHT, size: { basis: 'height', value: 3 } });
    const { out } = await call('apply', '--mark', mark, '--preset', rule, '--out', 'n', 'Bay');
    const said = onBlack({
      ...{ date: '2024-03-09', time: '07:08', camera: 'Halden 5', lens: '35 mm' },
      ...{ place: 'Quillon Bay', caption: 'Salt & light', artist: 'Ines Marlow', batch: 'Bay' },
    });
    const { width, height } = out[0].copies[0].box;
    expect(width / height).toBeCloseTo(await aspectOf('noted.svg', said), 4);
    // The other has no notes at all: of its own there is only the folder.
    const bare = onBlack({
      ...{
        date: '',
        time: '',
        camera: '',
        lens: '',
        place: '',
        caption: '',
        artist: '',
        batch: 'Bay',
      },
    });
    const second = out[1].copies[0].box;
    expect(second.width / second.height).toBeCloseTo(await aspectOf('noted.svg', bare), 4);
  });

  it('that a photo lacks leave a mark of nothing else out, or fail a photo without another', async () => {
    const said = await lettered('caption', '{caption}');
    const lacking = 'two.jpg has nothing for {caption}, and its mark says nothing else.';
    for (const how of ['check', 'apply'] as const) {
      const to = how === 'apply' ? ['--out', 'alone'] : [];
      const { status, out, err } = await call(how, '--mark', said, ...to, 'Bay');
      expect([status, out.map((one) => one.error)]).toEqual([1, [null, lacking]]);
      expect(err).toContain(lacking);
    }
    expect(existsSync(join(folder, 'alone', 'two-web.jpg'))).toBe(false);

    const left = preset('left', { anchor: 'bottom-left' });
    const right = preset('right', { anchor: 'bottom-right' });
    const both = ['--mark', 'mark.svg', '--preset', left, '--mark', said, '--preset', right];
    const { status, out, err } = await call('apply', ...both, '--out', 'both', 'Bay');
    expect([status, out.map(({ verified }) => verified)]).toEqual([0, [true, true]]);
    expect(out.map(({ marks }) => marks.map(({ copies }) => copies.length))).toEqual([
      [1, 1],
      [1, 0],
    ]);
    expect(err).toContain('nothing for {caption}, so a mark of nothing else is left out');
    const asPng = { resize: null, file: { type: 'png' }, name_pattern: '{name}' };
    const delivery = { format: 'light-crest/delivery', version: 1, name: 'PNG', ...asPng };
    writeFileSync(join(folder, 'png.json'), JSON.stringify(delivery));
    const words = ['--delivery', 'png.json', '--out', 'png', 'Bay/two.jpg'];
    await call('apply', ...both, ...words);
    const alone = ['--mark', 'mark.svg', '--preset', left];
    await call('apply', ...alone, ...words.map((word) => (word === 'png' ? 'png alone' : word)));
    const [some, other] = ['png', 'png alone'].map((name) => join(folder, name, 'two.png'));
    expect((await sharp(some).raw().toBuffer()).equals(await sharp(other).raw().toBuffer())).toBe(
      true,
    );
  });

  it('whose letters a font lacks are told, each once', async () => {
    const mark = await lettered('names', '© {name}');
    copyFileSync(join(folder, 'plain.jpg'), join(folder, '港の港 x.jpg'));
    const { status, err } = await call('apply', '--mark', mark, '--out', 'signs', '港の港 x.jpg');
    expect(status).toBe(0);
    expect(err).toContain('has no letters for “港の”: boxes stand for them.');
    expect((await call('apply', '--mark', mark, '--out', 'signs', 'plain.jpg')).err).toBe('');
  });

  async function aspectOf(file: string, words: PhotoWords): Promise<number> {
    const { shapeOf } = await import('#server/imaging/raster/artwork');
    const imported = await imaging.importArtwork(readFileSync(join(folder, file)));
    if (!imported.ok) throw new Error(imported.reason);
    return shapeOf(imported.value.artwork, words).aspect;
  }
});
