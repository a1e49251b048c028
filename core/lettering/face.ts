import { Blob, Buffer, Face as FontFace, Feature, Font, shape } from 'harfbuzzjs';
import { readPath, type Path } from '../path/path.ts';
import { failure, success, type Result } from '../result.ts';

/** A glyph on a line: font units, y pointing up, from the start of the line's baseline. */
export interface SetGlyph {
  readonly id: number;
  readonly x: number;
  readonly y: number;
  readonly advance: number;
}

export interface SetLine {
  readonly glyphs: readonly SetGlyph[];
  /** Without the space after its last letter. */
  readonly width: number;
}

/** What CSS Text, section 8.2 asks for: letters set apart are not joined into ligatures. */
const WITHOUT_LIGATURES = ['liga', 'clig', 'dlig'] as const;

/** How a font says that it has no letter for a character. */
const MISSING_GLYPH = 0;

/**
 * One face of a font. HarfBuzz shapes the words, with kerning, ligatures and contextual forms, and
 * gives the outlines: the same code in the page and on the server, so both set alike.
 */
export class Face {
  private readonly paths = new Map<number, Path>();
  readonly unitsPerEm: number;
  /** Font units above and below the baseline, the latter negative, and between two lines. */
  readonly ascent: number;
  readonly descent: number;
  readonly lineGap: number;
  readonly capHeight: number;
  private readonly font: Font;

  private constructor(font: Font, unitsPerEm: number) {
    this.font = font;
    this.unitsPerEm = unitsPerEm;
    const { ascender, descender, lineGap } = font.hExtents();
    this.ascent = ascender || unitsPerEm * 0.8;
    this.descent = descender || -unitsPerEm * 0.2;
    this.lineGap = lineGap;
    const capital = font.glyph('H'.codePointAt(0) as number);
    const extents = capital === undefined ? undefined : font.glyphExtents(capital);
    this.capHeight = extents?.yBearing || this.ascent * 0.7;
  }

  /** @param bytes a TrueType or OpenType font */
  static read(bytes: Uint8Array): Result<Face> {
    const face = new FontFace(new Blob(bytes), 0);
    const font = new Font(face);
    const hasLetters = ['A', 'a', 'n', '0'].some((letter) => {
      const glyph = font.glyph(letter.codePointAt(0) as number);
      return glyph !== undefined && font.glyphToPath(glyph) !== '';
    });
    if (!(face.upem > 0) || !hasLetters) {
      return failure('Expected a font with letters as outlines, found none in it.');
    }
    return success(new Face(font, face.upem));
  }

  /** @param letterSpacing font units after each letter but the last */
  set(text: string, letterSpacing: number): SetLine {
    const buffer = new Buffer();
    buffer.addText(text);
    buffer.guessSegmentProperties();
    const features = letterSpacing === 0 ? [] : WITHOUT_LIGATURES.map((tag) => new Feature(tag, 0));
    shape(this.font, buffer, features);
    let x = 0;
    const glyphs = buffer.getGlyphInfosAndPositions().map((glyph): SetGlyph => {
      const advance = (glyph.xAdvance ?? 0) + (glyph.xAdvance ? letterSpacing : 0);
      const set = {
        id: glyph.codepoint,
        x: x + (glyph.xOffset ?? 0),
        y: glyph.yOffset ?? 0,
        advance,
      };
      x += advance;
      return set;
    });
    return { glyphs, width: glyphs.length > 0 ? x - letterSpacing : 0 };
  }

  /** Characters of the text that the font has no letter for. */
  missing(text: string): string[] {
    const without = [...new Set(text)].filter((sign) => {
      if (/\s/.test(sign)) return false;
      return (this.font.glyph(sign.codePointAt(0) as number) ?? MISSING_GLYPH) === MISSING_GLYPH;
    });
    return without;
  }

  /** The outline of a glyph, font units, y pointing up. */
  outline(id: number): Path {
    let path = this.paths.get(id);
    if (!path) {
      const read = readPath(this.font.glyphToPath(id));
      this.paths.set(id, (path = read.ok ? read.value : []));
    }
    return path;
  }
}
