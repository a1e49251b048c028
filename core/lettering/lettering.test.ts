import { describe, expect, it } from 'vitest';
import { faceBytes, shippedFace } from '#tests/helpers/faces';
import { letteringSchema, type Lettering } from '../contract/design.ts';
import { pathBox } from '../path/pathBox.ts';
import { turningSense } from '../path/reversed.ts';
import { bentPlace, bendOf } from './bend.ts';
import { Face } from './face.ts';
import { setLettering } from './setLettering.ts';
import { readSfnt } from './sfnt.ts';
import { faceKey, nearestFace, SHIPPED_FONTS } from './shippedFonts.ts';
import { exampleWords } from './photoWords.ts';
import { linesOf } from './words.ts';

const WORDS = exampleWords(2_026);
const sans = shippedFace('montserrat', '500');

const lettering = (part: Partial<Lettering> & { text: string }): Lettering =>
  letteringSchema.parse({ font: { family: 'montserrat', weight: 500 }, ...part });

const boxOf = (part: Partial<Lettering> & { text: string }, face = sans) => {
  const box = pathBox(setLettering(lettering(part), face, WORDS));
  if (!box) throw new Error('nothing was set');
  return box;
};

describe('a face', () => {
  it('kerns by the rules of its font', () => {
    expect(sans.set('AV', 0).width).toBeLessThan(sans.set('A', 0).width + sans.set('V', 0).width);
  });

  it('uses contextual forms in most of the hands that ship', () => {
    const hands = SHIPPED_FONTS.filter(({ kind }) => kind === 'hand');
    const contextual = hands.filter(({ id }) => {
      const face = shippedFace(id);
      const words = ['hello moon', 'off the shore', 'tt ss oo', 'bo vo wo', 'Th fi ff'];
      return words.some((word) => {
        const together = face.set(word, 0).glyphs.map((glyph) => glyph.id);
        const alone = [...word].flatMap((sign) => face.set(sign, 0).glyphs.map(({ id: g }) => g));
        return together.join() !== alone.join();
      });
    });
    expect(contextual.length).toBeGreaterThan(hands.length / 2);
  });

  it('sets letters apart without joining them', () => {
    const playfair = shippedFace('playfair-display');
    expect(playfair.set('fi', 0).glyphs.length).toBeLessThanOrEqual(2);
    expect(playfair.set('fi', 10).glyphs).toHaveLength(2);
    const plain = sans.set('abc', 0);
    expect(sans.set('abc', 100).width).toBeCloseTo(plain.width + 200);
  });

  it('says which signs it lacks', () => {
    expect(sans.missing('© 2026 Ines')).toEqual([]);
    expect(sans.missing('Ines 山')).toEqual(['山']);
  });

  it.each([
    ['text', new TextEncoder().encode('not a font at all, just words')],
    ['nothing', new Uint8Array()],
    ['a font cut short', faceBytes('allura').slice(0, 2_000)],
  ])('refuses %s', (_, bytes) => {
    expect(Face.read(bytes).ok && readSfnt(bytes).ok).toBe(false);
  });
});

describe('words', () => {
  it('fills in words of the photo, then the case', () => {
    const words = lettering({ text: '© {year}\nInes', letterCase: 'capitals' });
    expect(linesOf(words, exampleWords(2_025))).toEqual(['© 2025', 'INES']);
  });

  it('grow away from what they are aligned to', () => {
    for (const text of ['Quillon', 'Quillon Bay Pictures']) {
      expect(Math.abs(boxOf({ text, align: 'left' }).x)).toBeLessThan(12);
      const right = boxOf({ text, align: 'right' });
      expect(Math.abs(right.x + right.width)).toBeLessThan(12);
      const centred = boxOf({ text, align: 'centre' });
      expect(Math.abs(centred.x + centred.width / 2)).toBeLessThan(8);
    }
  });

  it('are set in units of the em, whatever those of the font', () => {
    const { capHeight, unitsPerEm } = sans;
    expect(boxOf({ text: 'H' }).height).toBeCloseTo((capHeight / unitsPerEm) * 100, 1);
  });

  it('stand on lines as far apart as wished', () => {
    const one = boxOf({ text: 'H' }).height;
    const single = boxOf({ text: 'H\nH' }).height - one;
    const double = boxOf({ text: 'H\nH', lineSpacing: 2 }).height - one;
    expect(double).toBeCloseTo(2 * single, 1);
  });
});

describe('words on an arc', () => {
  it('span the angle that is asked for', () => {
    const width = boxOf({ text: 'QUILLON BAY' }).width;
    const bend = bendOf(180, width);
    expect(bend?.radius).toBeCloseTo(width / Math.PI);
    const half = boxOf({ text: 'QUILLON BAY', arcDeg: 180 });
    // Half a circle is as wide as its diameter and the letters on both sides of it.
    expect(half.width).toBeGreaterThan((2 * width) / Math.PI);
    expect(half.width).toBeLessThan((2 * width) / Math.PI + 160);
    expect(half.height).toBeGreaterThan(width / Math.PI);
  });

  it('stand on the circle, or hang in it, with their middle where it was', () => {
    for (const arcDeg of [120, -120]) {
      const bend = bendOf(arcDeg, 300);
      if (!bend) throw new Error('not bent');
      const middle = bentPlace(0, 0, bend);
      expect([middle.x, middle.y, middle.turnDeg].map(Math.abs)).toEqual([0, 0, 0]);
      const end = bentPlace(150, 0, bend);
      expect(Math.sign(end.y)).toBe(arcDeg > 0 ? 1 : -1);
      expect(end.turnDeg).toBeCloseTo(arcDeg / 2);
      const centreY = arcDeg > 0 ? bend.radius : -bend.radius;
      expect(Math.hypot(end.x, end.y - centreY)).toBeCloseTo(bend.radius);
    }
    expect(bendOf(0, 300)).toBeNull();
  });
});

describe('a line with words', () => {
  const line = { where: 'beneath', form: 'straight', weight: 4, gap: 20, length: 100 } as const;

  it('lies beneath or above them, as wide as they are seen', () => {
    const bare = boxOf({ text: 'Quillon' });
    const beneath = boxOf({ text: 'Quillon', line: { ...line, drawing: null } });
    expect(beneath.width).toBeCloseTo(bare.width, 1);
    expect(beneath.y + beneath.height).toBeCloseTo(22, 1);
    const above = boxOf({ text: 'Quillon', line: { ...line, where: 'above', drawing: null } });
    expect(above.y).toBeCloseTo((-sans.capHeight / sans.unitsPerEm) * 100 - 22, 1);
  });

  it('runs the same way round as the letters, so that descenders cross it whole', () => {
    const letters = setLettering(lettering({ text: 'g' }), sans, WORDS);
    for (const form of ['straight', 'tapered'] as const) {
      const all = setLettering(
        lettering({ text: 'g', line: { ...line, form, drawing: null } }),
        sans,
        WORDS,
      );
      const drawn = all.slice(letters.length);
      expect(turningSense(drawn)).toBe(turningSense(letters));
    }
  });

  it('can be strokes of one’s own, stretched to the words', () => {
    const drawing = {
      strokes: [{ points: [0, 0, 0.5, 40, 12, 0.5, 80, 0, 0.5, 160, 20, 0.5], pressure: true }],
      pen: { weight: 6, contrast: 0.5, smoothing: 0.4 },
    };
    const set = setLettering(
      lettering({ text: 'Quillon', line: { ...line, form: 'flourish', drawing } }),
      sans,
      WORDS,
    );
    const letters = setLettering(lettering({ text: 'Quillon' }), sans, WORDS);
    const flourish = pathBox(set.slice(letters.length));
    expect(flourish?.width).toBeCloseTo(pathBox(letters)?.width ?? 0, 1);
  });

  it('follows the arc of its words', () => {
    const straight = boxOf({ text: 'Quillon', line: { ...line, drawing: null } });
    const bent = boxOf({ text: 'Quillon', arcDeg: 140, line: { ...line, drawing: null } });
    expect(bent.height).toBeGreaterThan(straight.height * 1.5);
  });
});

describe('the fonts that ship', () => {
  it.each(SHIPPED_FONTS.map((family) => [family.name, family] as const))(
    '%s has all its faces, with © and the year',
    (name, family) => {
      for (const info of family.faces) {
        const file = faceKey(family.id, info).slice(family.id.length + 1);
        expect(shippedFace(family.id, file).missing('© 2026 ®·–')).toEqual([]);
        const facts = readSfnt(faceBytes(family.id, file));
        expect(facts.ok && facts.value.family).toContain(name.split(' ')[0]);
        expect(facts.ok && facts.value.italic).toBe(info.italic);
      }
    },
  );

  it('are found by the nearest face', () => {
    const faces = [
      { weight: 300, italic: false },
      { weight: 700, italic: false },
      { weight: 300, italic: true },
    ];
    expect(nearestFace(faces, { weight: 600, italic: false })).toBe(faces[1]);
    expect(nearestFace(faces, { weight: 900, italic: true })).toBe(faces[2]);
    expect(nearestFace(faces.slice(0, 2), { weight: 300, italic: true })).toBe(faces[0]);
    expect(nearestFace([], { weight: 300, italic: true })).toBeNull();
  });
});
