import { describe, expect, it } from 'vitest';
import { designSchema } from '#core/contract/design';
import { failure, success } from '#core/result';
import { exampleWordsNow } from '../../lettering/examples.ts';
import { SHIPPED_FONTS_FOLDER } from '../../lettering/fontBook.ts';
import type { MarkSource } from '../compose.ts';
import { shapeOf } from './artwork.ts';
import { wordsSaid } from './wordsSaid.ts';

const box = { x: -100, y: -20, width: 200, height: 40 };

function saying(text: string): MarkSource {
  const lettering = { text, font: { family: 'montserrat', weight: 500 } };
  const design = designSchema.parse({
    layers: [{ id: 'w', kind: 'lettering', name: 'W', lettering }],
  });
  const fontFolders = [SHIPPED_FONTS_FOLDER];
  const artwork = {
    kind: 'design',
    natural: box,
    ink: box,
    design,
    parts: {},
    fontFolders,
  } as const;
  return { key: text, artwork };
}

const PLAIN: MarkSource = {
  key: 'plain',
  artwork: { kind: 'svg', natural: box, ink: box, svg: '<path d="M0 0L9 0L9 9Z"/>' },
};
const words = { ...exampleWordsNow(), caption: '', place: '' };
const said = (...marks: MarkSource[]) => wordsSaid(marks, words, 'a.jpg');

describe('the words of a photo', () => {
  it('are nothing to tell of where all are there, or none are asked for', () => {
    expect(said()).toEqual(success(null));
    expect(said(PLAIN, saying('{name}'), saying('© {caption}'))).toEqual(success(null));
  });

  it('leave a mark empty that says nothing else, which lies nowhere', () => {
    const empty = saying('{caption}');
    expect(shapeOf(empty.artwork, words)).toMatchObject({ isEmpty: true });
    expect(shapeOf(empty.artwork, { ...words, caption: 'Tern' }).isEmpty).toBe(false);
    expect(shapeOf(PLAIN.artwork, words).isEmpty).toBe(false);
    const left = 'It has nothing for {caption}, so a mark of nothing else is left out.';
    expect(said(PLAIN, empty)).toEqual(success(left));
    const all = 'a.jpg has nothing for {place} and {caption}, and its mark says nothing else.';
    expect(said(saying('{caption} · {place}'))).toEqual(failure(all));
  });

  it('are told where a font lacks letters for them, some by name', () => {
    const many = String.fromCodePoint(...Array.from({ length: 20 }, (_, index) => 0x4e00 + index));
    const some = wordsSaid([saying('{name}')], { ...words, name: many }, 'a.jpg');
    expect(some).toEqual(
      success(expect.stringMatching(/“.{12}” and 8 more: boxes stand for them/)),
    );
    // What was typed is told where it was.
    expect(said(saying('港'))).toEqual(success(null));
  });
});
