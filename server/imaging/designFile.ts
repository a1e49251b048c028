import { exampleWordsNow } from '../lettering/examples.ts';
import type { PhotoWords } from '#core/lettering/words';
import type { Design, Layer, Parts } from '#core/contract/design';
import type { MarkOrigin } from '#core/contract/mark';
import { naturalBoxes } from '#core/design/markToSvg';
import { setLettering } from '#core/lettering/setLettering';
import { pathText } from '#core/path/path';
import { failure, success, type Result } from '#core/result';
import { faceOf, SHIPPED_FONTS_FOLDER } from '../lettering/fontBook.ts';
import { markSvg, modelOf } from './markFile.ts';
import { pngOfRaster } from './pngOfRaster.ts';
import { contextOf, type DesignArtwork, type Showing } from './raster/artwork.ts';
import type { Rasteriser } from './raster/rasteriser.ts';

/** A design may be drawn at most this large for the page, px a side. */
const MOST_PICTURE_PX = 4_096;

/** A design with its boxes, and the file that draws it. */
export interface ComposedDesign {
  readonly artwork: DesignArtwork;
  readonly svg: string;
}

/** @param name of the mark, for its file */
export async function composedDesign(
  design: Design,
  parts: Parts,
  fontFolders: readonly string[],
  name: string,
): Promise<Result<ComposedDesign>> {
  const words = exampleWordsNow();
  const artwork = measuredDesign(withKeptOutlines(design, fontFolders), parts, fontFolders, words);
  if (!artwork.ok) return artwork;
  const origin: MarkOrigin = { kind: 'design', design: artwork.value.design };
  const showing = { tone: 'original', words } as const;
  const svg = await markSvg(artwork.value, showing, modelOf(artwork.value, name, origin));
  return svg.ok ? success({ artwork: artwork.value, svg: svg.value }) : svg;
}

/** All that is drawn of a design as PNG, `scale` px a unit. */
export async function designPicture(
  design: Design,
  parts: Parts,
  fontFolders: readonly string[],
  showing: Showing,
  scale: number,
  rasteriser: Rasteriser,
): Promise<Result<Uint8Array>> {
  const artwork = measuredDesign(design, parts, fontFolders, showing.words);
  if (!artwork.ok) return artwork;
  const { natural, ink } = artwork.value;
  const width = Math.ceil(natural.width * scale);
  const height = Math.ceil(natural.height * scale);
  if (width > MOST_PICTURE_PX || height > MOST_PICTURE_PX) {
    return failure(`Expected a picture of at most ${MOST_PICTURE_PX} px a side.`);
  }
  const spec = {
    ...{ width, height, rotation: 0 },
    centreX: (ink.x + ink.width / 2 - natural.x) * scale,
    centreY: (ink.y + ink.height / 2 - natural.y) * scale,
    markWidth: ink.width * scale,
    markHeight: ink.height * scale,
  };
  const raster = await rasteriser.draw(artwork.value, spec, showing);
  return raster.ok ? success(await pngOfRaster(raster.value)) : raster;
}

function measuredDesign(
  design: Design,
  parts: Parts,
  fontFolders: readonly string[],
  words: PhotoWords,
): Result<DesignArtwork> {
  const nowhere = { x: 0, y: 0, width: 1, height: 1 };
  const whole = { kind: 'design', design, parts, fontFolders } as const;
  const boxes = naturalBoxes(
    design,
    contextOf({ ...whole, natural: nowhere, ink: nowhere }, words),
  );
  if (boxes) return success({ ...whole, ...boxes });
  return failure('Expected a mark with something visible in it, found only empty layers.');
}

/** Words in a font that was added keep their outlines, for where that font is not. */
function withKeptOutlines(design: Design, fontFolders: readonly string[]): Design {
  const words = exampleWordsNow();
  const layers = design.layers.map((layer): Layer => {
    if (layer.kind !== 'lettering') return layer;
    const isShipped = faceOf([SHIPPED_FONTS_FOLDER], layer.lettering.font) !== null;
    const face = faceOf(fontFolders, layer.lettering.font);
    if (isShipped || !face) return layer;
    const kept = pathText(setLettering(layer.lettering, face, words));
    return { ...layer, lettering: { ...layer.lettering, kept } };
  });
  return { ...design, layers };
}
