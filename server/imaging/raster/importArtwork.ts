import type { MarkOrigin } from '#core/contract/mark';
import { hexOf, rgbOf } from '#core/colour/hex';
import { findBackground } from '#core/ink/withoutBackground';
import { inkBox } from '#core/mark/inkBox';
import { markModelOf } from '#core/mark/markFile';
import { sanitiseSvg } from '#core/mark/svg/sanitise';
import type { Box } from '#core/placement/geometry';
import type { Raster } from '#core/pixels';
import { failure, success, type Result } from '#core/result';
import { MAX_ARTWORK_BYTES } from '../limits.ts';
import { isPdf } from '../pdf/isPdf.ts';
import { sharpOf } from '../sharp.ts';
import type { Artwork } from './artwork.ts';
import { importDesign, withoutScan } from './importDesign.ts';
import { pictureRaster } from './pictureRaster.ts';
import type { Rasteriser } from './rasteriser.ts';

/** Artwork as taken in, with what the photographer should know about it. */
export interface ImportedArtwork {
  readonly artwork: Artwork;
  readonly notes: readonly string[];
  readonly origin: MarkOrigin;
  /** The name a mark's own file gives it. */
  readonly name: string | null;
  /** Colour of an opaque box round it, `#rrggbb`, or null. */
  readonly box: string | null;
}

const FROM_FILE: MarkOrigin = Object.freeze({ kind: 'file' });

/** Longer side at which the ink box of an SVG is first looked for, then measured, px. */
const SEARCH_PX = 1_000;
const MEASURE_PX = 4_000;

/**
 * Turns the bytes of a PNG, SVG, WebP, TIFF, JPEG, HEIC or PDF into artwork with a known ink box.
 *
 * @param page of a PDF, from 1
 */
export async function importArtwork(
  bytes: Uint8Array,
  rasteriser: Rasteriser,
  page = 1,
): Promise<Result<ImportedArtwork>> {
  if (bytes.byteLength === 0) return failure('Expected artwork, found an empty file.');
  if (bytes.byteLength > MAX_ARTWORK_BYTES) {
    return failure(`Expected artwork of at most ${MAX_ARTWORK_BYTES / 1e6} MB.`);
  }
  const text = svgText(bytes);
  if (text !== null) return importSvg(text, rasteriser);
  if (!isPdf(bytes)) return importPicture(bytes, rasteriser);
  const { pdfPicture } = await import('../pdf/pdf.ts');
  const picture = await pdfPicture(bytes, page, { longSidePx: null, onPaper: false });
  return picture.ok ? importPicture(picture.value, rasteriser) : picture;
}

/** The text of an SVG, or null. Design programs write a byte order mark, comments and a DOCTYPE first. */
function svgText(bytes: Uint8Array): string | null {
  const isUtf16 = bytes[0] === 0xff ? 'utf-16le' : bytes[0] === 0xfe ? 'utf-16be' : null;
  const head = new TextDecoder(isUtf16 ?? 'utf-8').decode(bytes.subarray(0, 64)).trimStart();
  return head.startsWith('<') ? new TextDecoder(isUtf16 ?? 'utf-8').decode(bytes) : null;
}

async function importSvg(text: string, rasteriser: Rasteriser): Promise<Result<ImportedArtwork>> {
  const model = markModelOf(text);
  const composed = model.ok && model.value ? importDesign(model.value) : null;
  if (composed?.ok) return composed;
  const clean = sanitiseSvg(text);
  if (!clean.ok) return clean;
  const { svg, box, dropped, textFonts } = clean.value;
  const ink = await measureInk(svg, box, rasteriser);
  if (!ink.ok) return ink;
  const notes: string[] = [];
  if (dropped.length > 0) {
    notes.push(
      `Left out, since a mark only needs what is drawn: ${dropped.slice(0, 8).join(', ')}.`,
    );
  }
  if (textFonts.length > 0) {
    notes.push(
      `It holds live text in ${textFonts.join(', ')}. Where that font is missing, another stands in; ` +
        'convert the text to outlines to be sure.',
    );
  }
  const damage = composed?.reason ?? (model.ok ? null : model.reason);
  if (damage !== null) {
    notes.push(
      `Its editable part is damaged (${damage}), so it came in as plain artwork. ` +
        'What it looks like is whole.',
    );
  }
  const known = model.ok && damage === null ? model.value : null;
  return success({
    artwork: { kind: 'svg', svg, natural: box, ink: ink.value },
    notes,
    origin: known ? withoutScan(known.origin) : FROM_FILE,
    name: known?.name ?? null,
    box: null,
  });
}

/** Found on the whole artwork, then measured again on just the part that holds ink. */
async function measureInk(svg: string, natural: Box, rasteriser: Rasteriser): Promise<Result<Box>> {
  const rough = await inkWithin(svg, natural, natural, SEARCH_PX, rasteriser);
  if (!rough.ok) return rough;
  const pixel = Math.max(natural.width, natural.height) / SEARCH_PX;
  const near = grown(rough.value, 2 * pixel);
  return inkWithin(svg, natural, near, MEASURE_PX, rasteriser);
}

async function inkWithin(
  svg: string,
  natural: Box,
  area: Box,
  longerSidePx: number,
  rasteriser: Rasteriser,
): Promise<Result<Box>> {
  const scale = longerSidePx / Math.max(area.width, area.height);
  const width = Math.max(1, Math.ceil(area.width * scale));
  const height = Math.max(1, Math.ceil(area.height * scale));
  const spec = {
    width,
    height,
    centreX: (area.width * scale) / 2,
    centreY: (area.height * scale) / 2,
    markWidth: area.width * scale,
    markHeight: area.height * scale,
    rotation: 0,
  };
  const drawn = await rasteriser.draw({ kind: 'svg', svg, natural, ink: area }, spec);
  if (!drawn.ok) return drawn;
  const box = inkBox(drawn.value);
  if (!box) return failure(NOTHING_VISIBLE);
  return success({
    x: area.x + box.x / scale,
    y: area.y + box.y / scale,
    width: box.width / scale,
    height: box.height / scale,
  });
}

const NOTHING_VISIBLE = 'Expected artwork with something visible in it, found only transparency.';

async function importPicture(
  bytes: Uint8Array,
  rasteriser: Rasteriser,
): Promise<Result<ImportedArtwork>> {
  const decoded = await pictureRaster(bytes, rasteriser);
  if (!decoded.ok) return decoded;
  const background = findBackground(decoded.value);
  if (background?.isAll) {
    return failure(
      `Expected artwork with something visible in it, found ${hexOf(background.colour)} all over.`,
    );
  }
  return pictureArtwork(decoded.value, FROM_FILE, background && hexOf(background.colour));
}

/** Takes the box of one colour away from artwork and trims what is left. */
export async function withoutBox(
  png: Uint8Array,
  colour: string,
  from: 'outside' | 'everywhere',
  rasteriser: Rasteriser,
): Promise<Result<ImportedArtwork>> {
  const free = await rasteriser.withoutBox(png, rgbOf(colour), from);
  return free.ok ? pictureArtwork(free.value, FROM_FILE, colour) : free;
}

async function pictureArtwork(
  raster: Raster,
  origin: MarkOrigin,
  box: string | null,
): Promise<Result<ImportedArtwork>> {
  const ink = inkBox(raster);
  if (!ink) return failure(NOTHING_VISIBLE);
  const png = await cropped(raster, ink);
  const whole = { x: 0, y: 0, width: ink.width, height: ink.height };
  const isPadded = ink.width < raster.width || ink.height < raster.height;
  const notes = isPadded ? ['Transparent padding round it was trimmed.'] : [];
  return success({
    artwork: { kind: 'png', png, natural: whole, ink: whole },
    ...{ notes, origin, box, name: null },
  });
}

function cropped(raster: Raster, box: Box): Promise<Buffer> {
  return sharpOf(raster)
    .extract({ left: box.x, top: box.y, width: box.width, height: box.height })
    .png()
    .toBuffer();
}

function grown(box: Box, by: number): Box {
  return {
    x: box.x - by,
    y: box.y - by,
    width: box.width + 2 * by,
    height: box.height + 2 * by,
  };
}
