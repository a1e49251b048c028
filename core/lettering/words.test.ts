import { describe, expect, it } from 'vitest';
import { exampleWords, lackedWords, photoWords } from './photoWords.ts';
import { filledText, tokensOf, wordsKey, WORD_TOKENS, type PhotoWords } from './words.ts';

const all = exampleWords(2026);
const without = (...tokens: (keyof PhotoWords)[]): PhotoWords => ({
  ...all,
  ...Object.fromEntries(tokens.map((token) => [token, ''])),
});

describe('words of a photo', () => {
  it('fill in every token', () => {
    for (const token of WORD_TOKENS)
      expect(filledText(`a {${token}}`, all)).toBe(`a ${all[token]}`);
    expect(filledText('No. {number:5}', all)).toBe('No. 00043');
    expect(filledText('{year}–{year}', all)).toBe('2026–2026');
  });

  it('leave what is no token as it is', () => {
    expect(filledText('{yaer} {number:x} {name:3} {', all)).toBe('{yaer} {number:x} NC26_0043 {');
    expect(tokensOf({ text: '{yaer} {name} {year} {name}' })).toEqual(['year', 'name']);
  });

  it.each([
    ['{date} · {place} · {name}', ['place'], '2026-05-14 · NC26_0043'],
    ['{date} · {place} · {caption} · {name}', ['place', 'caption'], '2026-05-14 · NC26_0043'],
    ['{place}, {date}', ['place'], '2026-05-14'],
    ['{date}, {place}', ['place'], '2026-05-14'],
    ['{place} – {lens}', ['place', 'lens'], ''],
    ['{name} ({place})', ['place'], 'NC26_0043'],
    ['© {year} {artist}', ['artist'], '© 2026'],
    ['{artist}\n{place}\n{name}', ['place'], 'Ines Marlow\nNC26_0043'],
    ['a - b {place}', ['place'], 'a - b'],
    ['{number:3} · {name}', ['number'], 'NC26_0043'],
  ] as const)('%s without %j leaves no doubled separators', (text, lacking, expected) => {
    expect(filledText(text, without(...lacking))).toBe(expected);
  });

  it('are one line, however many a caption has', () => {
    expect(filledText('{caption}', { ...all, caption: ' one\r\n two\u0007 ' })).toBe('one two');
  });

  it('come from what is known of the photo and of its run', () => {
    const facts = {
      ...{ name: 'A.B.jpg', capturedAt: '2024-03-09T07:08:59', year: 2024, camera: 'C' },
      ...{ lens: null, place: null, caption: null, artist: 'I' },
    };
    expect(photoWords(facts, { number: 7, batch: 'Bay' })).toEqual({
      ...{
        year: '2024',
        date: '2024-03-09',
        time: '07:08',
        name: 'A.B',
        number: '7',
        batch: 'Bay',
      },
      ...{ camera: 'C', lens: '', place: '', caption: '', artist: 'I' },
    });
    const undated = photoWords({ ...facts, capturedAt: null }, { number: 1, batch: '' });
    expect([undated.year, undated.date, undated.time]).toEqual(['2024', '', '']);
  });

  it('that a photo lacks are named', () => {
    const facts = {
      ...{ name: 'A.jpg', capturedAt: null, year: 2024, camera: 'C', lens: null },
      ...{ place: null, caption: 'Light', artist: null },
    };
    expect(lackedWords(['year', 'name', 'camera', 'lens', 'caption'], facts)).toEqual([
      'year',
      'lens',
    ]);
    expect(lackedWords(['date'], { ...facts, capturedAt: '2024-03-09T07:08:59' })).toEqual([]);
  });

  it('tell photos apart by what a mark takes of them alone', () => {
    const other = { ...all, name: 'other' };
    expect(wordsKey(['year'], all)).toBe(wordsKey(['year'], other));
    expect(wordsKey(['name'], all)).not.toBe(wordsKey(['name'], other));
    expect(wordsKey([], all)).toBe('');
  });
});
