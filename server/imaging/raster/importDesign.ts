import { exampleWordsNow } from '../../lettering/examples.ts';
import type { Layer, Part, Parts } from '#core/contract/design';
import type { MarkModel, MarkOrigin } from '#core/contract/mark';
import { naturalBoxes } from '#core/design/markToSvg';
import { SHIPPED_FONTS } from '#core/lettering/shippedFonts';
import { sanitiseSvg } from '#core/mark/svg/sanitise';
import { isScoped, scopedSvg } from '#core/mark/svg/scoped';
import { readPath } from '#core/path/path';
import { failure, success, type Result } from '#core/result';
import { drawContext, SHIPPED_FONTS_FOLDER } from '../../lettering/fontBook.ts';
import { scopeOf } from './artworkScope.ts';
import type { ImportedArtwork } from './importArtwork.ts';

/** A mark that was composed of layers comes in as such; null for any other. */
export function importDesign({ origin, parts, name }: MarkModel): Result<ImportedArtwork> | null {
  if (origin.kind !== 'design') return null;
  const clean = cleanParts(parts);
  if (!clean.ok) return clean;
  const layers = origin.design.layers.map((layer) =>
    layer.kind === 'artwork'
      ? { ...layer, origin: withoutScan(layer.origin) }
      : withoutOwnFont(layer),
  );
  const missing = layers.find((layer) => layer.kind === 'artwork' && !clean.value[layer.part]);
  if (missing) return failure(`the artwork of the layer "${missing.name}" is not in it`);
  const design = { ...origin.design, layers };
  const fontFolders = [SHIPPED_FONTS_FOLDER];
  const context = drawContext(clean.value, fontFolders, exampleWordsNow());
  const boxes = naturalBoxes(design, context);
  if (!boxes) return failure('nothing of it is visible');
  return success({
    artwork: { kind: 'design', design, parts: clean.value, fontFolders, ...boxes },
    ...{ notes: [], origin: { ...origin, design }, name, box: null },
  });
}

/** What layers draw is as strange as any file: SVG is made safe again, paths are read. */
function cleanParts(parts: Parts): Result<Parts> {
  const clean: Record<string, Part> = {};
  for (const [key, part] of Object.entries(parts)) {
    const contour = readPath(part.contour);
    if (!contour.ok) return contour;
    if (part.kind !== 'svg') {
      clean[key] = part;
      continue;
    }
    const svg = sanitiseSvg(part.svg);
    if (!svg.ok) return svg;
    clean[key] = { ...part, svg: isolated(svg.value.svg) };
  }
  return success(clean);
}

/** The page draws it among everything else: its styles must not reach out of it. */
function isolated(svg: string): string {
  return isScoped(svg) ? svg : scopedSvg(svg, scopeOf(svg));
}

/** A font that somebody added goes by a number, which is another font in another library. */
function withoutOwnFont(layer: Layer): Layer {
  if (layer.kind !== 'lettering') return layer;
  const { font } = layer.lettering;
  if (SHIPPED_FONTS.some(({ id }) => id === font.family)) return layer;
  return { ...layer, lettering: { ...layer.lettering, font: { ...font, family: NOT_AT_HAND } } };
}

/** No font has this name: the kept outlines are drawn until another is chosen. */
const NOT_AT_HAND = 'elsewhere';

/** The number of a scan means nothing in another library. */
export function withoutScan<O extends MarkOrigin>(origin: O): O {
  return origin.kind === 'paper' ? { ...origin, scanId: null } : origin;
}
