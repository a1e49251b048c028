import { unitsOf, type Finish, type FinishOf } from '../contract/finish.ts';
import type { ToneChoice } from '../contract/preset.ts';
import { pathText } from '../path/path.ts';
import { grownBox } from '../path/pathBox.ts';
import type { Box } from '../placement/geometry.ts';
import { finishColour } from './colours.ts';
import { kept } from './kept.ts';
import { finishedBoxes, finishOf, outlineReach } from './measure.ts';
import { drawPlate } from './plate.ts';
import { bevelPicture, glowPicture, shadowPicture } from './soft/softPictures.ts';
import type { SoftPicture } from './soft/softPictures.ts';
import type { Piece } from './soft/softPlane.ts';
import { boxAttributes, short } from './svgText.ts';

/** Finishes as SVG: what lies beneath the ink, and what lies on it. */

/** A silhouette with all that its finishes need to know. */
export interface Subject {
  readonly pieces: readonly Piece[];
  readonly ink: Box;
  readonly colour: string | null;
  readonly tone: ToneChoice;
  readonly finishes: readonly Finish[];
  /** Unique within the document. */
  readonly id: string;
}

/** What lies beneath the ink: plate, shadow, glow, outline. */
export function drawUnder(subject: Subject, isSeenThrough: boolean): string {
  const { finishes, ink, pieces } = subject;
  const outline = finishOf(finishes, 'outline');
  const plate = finishOf(finishes, 'plate');
  const shadow = finishOf(finishes, 'shadow');
  const glow = finishOf(finishes, 'glow');
  const { bare, reach } = finishedBoxes(finishes, ink);
  const grown = outline ? outlineReach(outline) : 0;
  let soft = '';
  if (shadow) {
    const colour = colourOf(subject, shadow.colour);
    soft += softImage(subject, shadow, grown, colour, () =>
      shadowPicture(pieces, ink, shadow, grown, colour),
    );
  }
  if (glow) {
    const colour = colourOf(subject, glow.colour);
    soft += softImage(subject, glow, grown, colour, () =>
      glowPicture(pieces, ink, glow, grown, colour),
    );
  }
  if (outline?.position === 'outside') soft += stroke(subject, outline, 2);
  // What shows through the ink, or round its soft edges, must not be there.
  if (soft !== '' && isSeenThrough) soft = behind(soft, pieces, reach, subject.id);
  return plate ? drawPlate(plate, bare, colourOf(subject, plate.colour)) + soft : soft;
}

/** What lies on the ink: an outline on its edge, the light and shade of a bevel. */
export function drawOver(subject: Subject): string {
  const outline = finishOf(subject.finishes, 'outline');
  const bevel = finishOf(subject.finishes, 'bevel');
  let svg = '';
  if (bevel) {
    const clip = `${subject.id}b`;
    const shapes = subject.pieces.map(piecePath).join('');
    const image = softImage(subject, bevel, 0, '', () =>
      bevelPicture(subject.pieces, subject.ink, bevel),
    );
    svg += `<clipPath id="${clip}">${shapes}</clipPath><g clip-path="url(#${clip})">${image}</g>`;
  }
  if (outline?.position === 'centred') svg += stroke(subject, outline, 1);
  return svg;
}

function stroke(subject: Subject, outline: FinishOf<'outline'>, widths: 1 | 2): string {
  const colour = colourOf(subject, outline.colour);
  const width = short(unitsOf(outline.width) * widths);
  const faint = outline.strength < 1 ? ` opacity="${short(outline.strength)}"` : '';
  const lines = subject.pieces.map(piecePath).join('');
  // The inside is filled, too: no gap shows between an outline and ink with soft edges.
  const fill = widths === 2 ? colour : 'none';
  return (
    `<g fill="${fill}" stroke="${colour}" stroke-width="${width}" stroke-linejoin="round" ` +
    `stroke-linecap="round"${faint}>${lines}</g>`
  );
}

function piecePath({ path, x, y }: Piece): string {
  const place = x === 0 && y === 0 ? '' : ` transform="translate(${short(x)} ${short(y)})"`;
  return `<path${place} d="${pathText(path)}"/>`;
}

/** The content with the silhouette cut out of it. */
function behind(content: string, pieces: readonly Piece[], room: Box, id: string): string {
  const shapes = pieces.map(piecePath).join('');
  const area = boxAttributes(grownBox(room, 1));
  return (
    `<mask id="${id}m" maskUnits="userSpaceOnUse" ${area}>` +
    `<rect ${area} fill="#fff"/>${shapes}</mask><g mask="url(#${id}m)">${content}</g>`
  );
}

/** Pictures made for a silhouette, by finish: dragging a layer makes none anew. */
const pictures = new WeakMap<object, Map<string, SoftPicture>>();

function softImage(
  { pieces }: Subject,
  finish: Finish,
  grown: number,
  colour: string,
  make: () => SoftPicture,
): string {
  const key = `${JSON.stringify(finish)}|${grown}|${colour}`;
  const { box, href } = pieces.length === 1 ? kept(pictures, pieces[0].path, key, make) : make();
  return `<image ${boxAttributes(box)} preserveAspectRatio="none" href="${href}"/>`;
}

function colourOf({ colour: ink, tone }: Subject, colour: string): string {
  return finishColour(colour, ink, tone);
}
