import type PDFDocument from 'pdfkit';
import svgToPdf from 'svg-to-pdfkit';
import type { Blend } from '#core/contract/preset';
import type { Matrix } from '#core/path/matrix';
import type { MarkOutlines } from './markOutlines.ts';

/**
 * What the PDF library has no words for: a drawing that is kept once and painted many times (ISO 32000-2,
 * 8.10), as a group of its own (11.6.6), so that its opacity counts for all of it, and how that is blended
 * with what lies under it (11.3.5).
 */

export type Pdf = InstanceType<typeof PDFDocument>;

interface PdfReference {
  readonly data: Record<string, unknown>;
  write(text: string): void;
  end(): void;
}

/** Where the library writes to and looks for what is used there. */
interface Surface {
  readonly width: number;
  readonly height: number;
  readonly write: (text: string) => void;
  readonly fonts: Record<string, unknown>;
  readonly xobjects: Record<string, unknown>;
  readonly ext_gstates: Record<string, unknown>;
  readonly patterns: Record<string, unknown>;
  readonly colorSpaces: Record<string, unknown>;
}

/** The parts of the library that its types leave out. */
interface Inside {
  page: Surface;
  _ctm: Matrix;
  ref(data: Record<string, unknown>): PdfReference;
  addContent(text: string): void;
}

export interface PdfForm {
  readonly name: string;
  readonly reference: PdfReference;
}

let forms = 0;

/** A mark as a form, in the units of its drawing, from the upper left corner of what it shows. */
export function markForm(pdf: Pdf, outlines: MarkOutlines): PdfForm {
  const { svg, natural, colour } = outlines;
  const inside = pdf as unknown as Inside;
  const resources: Record<string, unknown> = {};
  const reference = inside.ref({
    Type: 'XObject',
    Subtype: 'Form',
    FormType: 1,
    BBox: [0, 0, natural.width, natural.height],
    Group: { S: 'Transparency', CS: 'DeviceRGB', I: true, K: false },
    Resources: resources,
  });
  const { page, _ctm: matrix } = inside;
  const surface: Surface = {
    ...{ width: natural.width, height: natural.height },
    write: (text) => reference.write(text),
    ...{ fonts: {}, xobjects: {}, ext_gstates: {}, patterns: {}, colorSpaces: {} },
  };
  inside.page = surface;
  inside._ctm = [1, 0, 0, 1, 0, 0];
  try {
    svgToPdf(pdf, svg, 0, 0, {
      ...{ width: natural.width, height: natural.height, assumePt: true },
      preserveAspectRatio: 'none',
      ...(colour ? { colorCallback: (drawn) => drawn && [[...colour], drawn[1]] } : {}),
    });
  } finally {
    inside.page = page;
    inside._ctm = matrix;
  }
  resources.XObject = surface.xobjects;
  resources.ExtGState = surface.ext_gstates;
  resources.Pattern = surface.patterns;
  resources.ColorSpace = surface.colorSpaces;
  reference.end();
  return { name: `Mark${++forms}`, reference };
}

/** Paints a form where the matrix puts it. */
export function paintForm(
  pdf: Pdf,
  { name, reference }: PdfForm,
  [a, b, c, d, e, f]: Matrix,
  opacity: number,
  blend: Blend,
): void {
  const inside = pdf as unknown as Inside;
  pdf.save();
  pdf.transform(a, b, c, d, e, f);
  useBlend(pdf, opacity, blend);
  inside.page.xobjects[name] = reference;
  inside.addContent(`/${name} Do`);
  pdf.restore();
}

/** Until the next `restore`. */
export function useBlend(pdf: Pdf, opacity: number, blend: Blend): void {
  const inside = pdf as unknown as Inside;
  const name = `Blend${blend.replace('-', '')}${Math.round(opacity * 1_000)}`;
  if (!(name in inside.page.ext_gstates)) {
    const state = inside.ref({ Type: 'ExtGState', CA: opacity, ca: opacity, BM: blendName(blend) });
    state.end();
    inside.page.ext_gstates[name] = state;
  }
  inside.addContent(`/${name} gs`);
}

/** PDF writes the names of CSS blending as one word, each part with a capital. */
function blendName(blend: Blend): string {
  return blend
    .split('-')
    .map((part) => part.charAt(0).toUpperCase() + part.slice(1))
    .join('');
}
