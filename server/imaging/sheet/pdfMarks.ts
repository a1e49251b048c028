import { LRUCache } from 'lru-cache';
import { planRasters, type RasterPlacing } from '#core/compose/rasterPlan';
import type { Blend } from '#core/contract/preset';
import { matrixOf, multiplied } from '#core/path/matrix';
import { centreOf } from '#core/placement/geometry';
import type { Raster } from '#core/pixels';
import { success, type Result } from '#core/result';
import { rescuePlacings, type LaidMark } from '../compose.ts';
import { pngOfRaster } from '../pngOfRaster.ts';
import { shapeOf, wordsOn } from '../raster/artwork.ts';
import type { Rasteriser } from '../raster/rasteriser.ts';
import { markOutlines, type MarkOutlines } from './markOutlines.ts';
import { markForm, paintForm, useBlend, type Pdf, type PdfForm } from './pdfForms.ts';
import type { MarkedArea } from './sheetLayout.ts';

/** Pictures of marks that are used again; a sheet of a batch often shows the same one in the same size. */
const PICTURES_KEPT = 40;
const FORMS_KEPT = 400;

interface KeptForm extends PdfForm {
  readonly outlines: MarkOutlines;
}

/** Marks on the sheets of a PDF: outlines stay outlines, all else is a picture in the pixels of the print. */
export class PdfMarks {
  private readonly forms = new LRUCache<string, { form: KeptForm | null }>({ max: FORMS_KEPT });
  private readonly pictures = new LRUCache<string, PDFKit.Mixins.ImageSrc & object>({
    max: PICTURES_KEPT,
  });

  constructor(
    private readonly pdf: Pdf,
    private readonly rasteriser: Rasteriser,
  ) {}

  /** In mm from the corner of the sheet. */
  async draw({ box, frame, laid }: MarkedArea): Promise<Result<void>> {
    const { pdf } = this;
    if (laid.length === 0) return success(undefined);
    pdf.save();
    pdf.rect(box.x, box.y, box.width, box.height).clip();
    // From here on in px of the area.
    pdf.translate(box.x, box.y);
    pdf.scale(box.width / frame.width, box.height / frame.height);
    for (const one of laid) {
      const drawn = await this.drawOne(one, frame);
      if (!drawn.ok) return drawn;
    }
    pdf.restore();
    return success(undefined);
  }

  private async drawOne(laid: LaidMark, frame: MarkedArea['frame']): Promise<Result<void>> {
    const { placement, mark, words } = laid;
    const { opacity, blend, tone, copies, rescue } = placement;
    const said = wordsOn(mark.artwork, words);
    for (const placing of rescue ? rescuePlacings(frame, laid) : []) {
      if (!rescue) break;
      const under = await this.rasteriser.rescue(
        mark.key,
        mark.artwork,
        placing.spec,
        rescue,
        words,
      );
      if (!under.ok) return under;
      const key = `rescue|${rescue.kind}|${rescue.colour}|${mark.key}|${said}`;
      await this.drawPicture(key, under.value, placing, rescue.strength, 'normal');
    }
    const form = this.formOf(laid, said);
    if (form) {
      const { ink, natural } = form.outlines;
      for (const { box, size, rotation } of copies) {
        const { x, y } = centreOf(box);
        const turned = matrixOf(x, y, rotation, size.width / ink.width, size.height / ink.height);
        // The form begins at the corner of what it shows; the mark turns about the middle of its ink.
        const middle = centreOf(ink);
        const from = matrixOf(natural.x - middle.x, natural.y - middle.y, 0, 1, 1);
        paintForm(this.pdf, form, multiplied(turned, from), opacity, blend);
      }
      return success(undefined);
    }
    const { bleed } = shapeOf(mark.artwork, words);
    for (const placing of planRasters(frame, copies, bleed)) {
      const { key, artwork } = mark;
      const raster = await this.rasteriser.raster(key, artwork, placing.spec, tone, words);
      if (!raster.ok) return raster;
      await this.drawPicture(`${key}|${tone}|${said}`, raster.value, placing, opacity, blend);
    }
    return success(undefined);
  }

  private formOf({ mark, placement, words }: LaidMark, said: string): KeptForm | null {
    const key = `${mark.key}|${placement.tone}|${said}`;
    let kept = this.forms.get(key);
    if (!kept) {
      const outlines = markOutlines(mark.artwork, placement.tone, words);
      kept = { form: outlines && { ...markForm(this.pdf, outlines), outlines } };
      this.forms.set(key, kept);
    }
    return kept.form;
  }

  /** @param name tells what is drawn; with the raster's place on its canvas it is the same picture */
  private async drawPicture(
    name: string,
    raster: Raster,
    { spec, left, top }: RasterPlacing,
    opacity: number,
    blend: Blend,
  ): Promise<void> {
    const key = `${name}|${Object.values(spec).join(',')}`;
    let picture = this.pictures.get(key);
    if (!picture) {
      // Opened by itself, so that it is embedded once however often it is drawn.
      const { openImage } = this.pdf as unknown as OpensImages;
      picture = openImage.call(this.pdf, await pngOfRaster(raster));
      this.pictures.set(key, picture);
    }
    this.pdf.save();
    useBlend(this.pdf, opacity, blend);
    this.pdf.image(picture as PDFKit.Mixins.ImageSrc, left, top, {
      ...{ width: raster.width, height: raster.height },
    });
    this.pdf.restore();
  }
}

interface OpensImages {
  openImage(bytes: Buffer): PDFKit.Mixins.ImageSrc & object;
}
