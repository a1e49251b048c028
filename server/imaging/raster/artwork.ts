import type { RasterSpec } from '#core/compose/rasterPlan';
import type { Rgb } from '#core/ink/withoutBackground';
import type { Box } from '#core/placement/geometry';

/** Artwork of a mark, ready to be drawn: `natural` is the area it shows, `ink` its ink box. */
export type Artwork = {
  readonly natural: Box;
  readonly ink: Box;
} & (
  | { readonly kind: 'svg'; readonly svg: string }
  | { readonly kind: 'png'; readonly png: Uint8Array }
);

export function aspectOf(artwork: Pick<Artwork, 'ink'>): number {
  return artwork.ink.width / artwork.ink.height;
}

/** What the drawing process is asked. */
export type RasterRequest =
  | { readonly do: 'draw'; readonly artwork: Artwork; readonly spec: RasterSpec }
  | { readonly do: 'decode'; readonly bytes: Uint8Array }
  | {
      readonly do: 'unbox';
      readonly bytes: Uint8Array;
      readonly colour: Rgb;
      readonly from: 'outside' | 'everywhere';
    };

/** RGBA, not premultiplied. */
export type RasterAnswer =
  | {
      readonly ok: true;
      readonly data: Uint8Array;
      readonly width: number;
      readonly height: number;
    }
  | { readonly ok: false; readonly reason: string };
