import { expect, test } from 'vitest';
import { designSchema } from '#core/contract/design';
import { isOfOneInk } from '#core/design/edit';
import { exampleWordsNow } from '../../lettering/examples.ts';
import { SHIPPED_FONTS_FOLDER } from '../../lettering/fontBook.ts';
import type { DesignArtwork, RasterRequest } from './artwork.ts';
import { drawMark } from './drawMark.ts';
import { Rasteriser } from './rasteriser.ts';

const lettering = { text: 'Tern {number}', font: { family: 'montserrat', weight: 500 } };
const layer = { id: 'w', kind: 'lettering', name: 'Words', lettering };
const box = { x: -120, y: -30, width: 240, height: 60 };
const words = exampleWordsNow();
const spec = {
  ...{ width: 260, height: 70, centreX: 130, centreY: 35 },
  ...{ markWidth: 240, markHeight: 60, rotation: 0 },
};

function artworkOf(layers: object[]): DesignArtwork {
  const design = designSchema.parse({ layers });
  const fontFolders = [SHIPPED_FONTS_FOLDER];
  return { kind: 'design', natural: box, ink: box, design, parts: {}, fontFolders };
}

function counting() {
  const asked: RasterRequest[] = [];
  const rasteriser = new Rasteriser((request) => {
    asked.push(request);
    return drawMark(request);
  });
  return { asked, rasteriser };
}

test('a design of one ink is drawn once for all tones, and looks as if drawn in each', async () => {
  const artwork = artworkOf([layer]);
  expect(isOfOneInk(artwork.design)).toBe(true);
  const { asked, rasteriser } = counting();
  for (const tone of ['light', 'dark', '#8040c0']) {
    const made = await rasteriser.raster('a', artwork, spec, tone, words);
    const drawn = await drawMark({ do: 'draw', artwork, spec, showing: { tone, words } });
    if (!made.ok || !drawn.ok || !('data' in drawn)) throw new Error('Expected two drawings.');
    let ink = 0;
    for (let at = 0; at < drawn.data.length; at += 4) {
      expect(made.value.data[at + 3]).toBe(drawn.data[at + 3]);
      // What is hardly there may be a level off by the way colours are kept.
      if (drawn.data[at + 3] < 250) continue;
      ink++;
      for (const channel of [0, 1, 2]) {
        expect(Math.abs(made.value.data[at + channel] - drawn.data[at + channel])).toBeLessThan(2);
      }
    }
    expect(ink).toBeGreaterThan(100);
  }
  await rasteriser.core('a', artwork, spec, words);
  expect(asked).toHaveLength(1);
});

test('a design with a colour that no tone changes is drawn for each', async () => {
  const artwork = artworkOf([layer, { ...layer, id: 'x', toned: false, colour: '#cc3311' }]);
  expect(isOfOneInk(artwork.design)).toBe(false);
  const { asked, rasteriser } = counting();
  await rasteriser.raster('a', artwork, spec, 'light', words);
  await rasteriser.raster('a', artwork, spec, 'dark', words);
  expect(asked).toHaveLength(2);
});

test('a mark of words that a photo lacks is drawn as nothing', async () => {
  const artwork = artworkOf([{ ...layer, lettering: { ...lettering, text: '{caption}' } }]);
  for (const [caption, isDrawn] of [
    ['Tern', true],
    ['', false],
  ] as const) {
    const showing = { tone: 'light', words: { ...words, caption } };
    const drawn = await drawMark({ do: 'draw', artwork, spec, showing });
    if (!drawn.ok || !('data' in drawn)) throw new Error('Expected a drawing.');
    expect([drawn.width, drawn.height]).toEqual([spec.width, spec.height]);
    expect(drawn.data.some((sample) => sample > 0)).toBe(isDrawn);
  }
});
