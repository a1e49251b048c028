import { EM_UNITS, type Lettering } from '../contract/design.ts';
import { matrixOf, multiplied } from '../path/matrix.ts';
import { transformedPath, type Path } from '../path/path.ts';
import { pathBox } from '../path/pathBox.ts';
import { agreeingWith } from '../path/reversed.ts';
import type { Box } from '../placement/geometry.ts';
import { bendOf, bentPlace, type Bend } from './bend.ts';
import type { Face, SetLine } from './face.ts';
import { letteringLine, type LineField } from './letteringLine.ts';
import { linesOf, type PhotoWords } from './words.ts';

/**
 * Words as one path. Its origin is on the first baseline: where the lines start, their middle or
 * where they end, by alignment, so that more words grow away from what they are aligned to. Units
 * as in `EM_UNITS`, y pointing down.
 */
export function setLettering(lettering: Lettering, face: Face, words: PhotoWords): Path {
  const scale = EM_UNITS / face.unitsPerEm;
  const spacing = (lettering.letterSpacing / 100) * face.unitsPerEm;
  const lines = linesOf(lettering, words).map((line) => face.set(line, spacing));
  const width = Math.max(0, ...lines.map((line) => line.width * scale));
  const pitch = (face.ascent - face.descent + face.lineGap) * scale * lettering.lineSpacing;
  const bend = bendOf(lettering.arcDeg, width);
  const glyphs = lines.flatMap((line, index) => {
    const baseline = index * pitch;
    return bend
      ? bentGlyphs(line, face, scale, baseline, bend)
      : straightGlyphs(line, face, scale, baseline, lettering.align);
  });
  if (!lettering.line) return glyphs;
  const field = lineField(lettering, lines.length, width, pitch, face.capHeight * scale, glyphs);
  const drawn = letteringLine(lettering.line, field, bend);
  return [...glyphs, ...agreeingWith(drawn, glyphs)];
}

function straightGlyphs(
  { glyphs, width }: SetLine,
  face: Face,
  scale: number,
  baseline: number,
  align: Lettering['align'],
): Path {
  const start = align === 'left' ? 0 : align === 'centre' ? -width / 2 : -width;
  return glyphs.flatMap(({ id, x, y }) =>
    transformedPath(
      face.outline(id),
      matrixOf((start + x) * scale, baseline - y * scale, 0, scale, -scale),
    ),
  );
}

/** Each letter stays as it is and is turned about the middle of the room it takes. */
function bentGlyphs(
  { glyphs, width }: SetLine,
  face: Face,
  scale: number,
  baseline: number,
  bend: Bend,
): Path {
  return glyphs.flatMap(({ id, x, y, advance }) => {
    const middle = (x + advance / 2 - width / 2) * scale;
    const place = bentPlace(middle, baseline, bend);
    const onCircle = matrixOf(place.x, place.y, place.turnDeg, 1, 1);
    const letter = matrixOf((-advance / 2) * scale, -y * scale, 0, scale, -scale);
    return transformedPath(face.outline(id), multiplied(onCircle, letter));
  });
}

/** Where a line beneath or above the words goes. */
function lineField(
  { align, line, arcDeg }: Lettering,
  lines: number,
  width: number,
  pitch: number,
  capHeight: number,
  glyphs: Path,
): LineField {
  // What is seen counts, not the room that letters take: a swash reaches far beyond it.
  const seen = arcDeg === 0 ? pathBox(glyphs) : null;
  const field: Pick<Box, 'x' | 'width'> = seen ?? {
    x: align === 'left' && arcDeg === 0 ? 0 : -width / 2,
    width,
  };
  const y = line?.where === 'above' ? -capHeight : (lines - 1) * pitch;
  return { centreX: field.x + field.width / 2, width: field.width, y };
}
