import type { Design, Layer } from '../contract/design.ts';
import { unitsOf, type Finish, type FinishKind, type FinishOf } from '../contract/finish.ts';
import { grownBox, unionBox } from '../path/pathBox.ts';
import type { Box } from '../placement/geometry.ts';
import type { DrawContext } from './context.ts';
import { plateBox, plateReach } from './plate.ts';
import { silhouetteOf, type Silhouette } from './silhouette.ts';
import { glowSigma, shadowShift, shadowSigma, softReach } from './soft/softPictures.ts';

/** The boxes of a design, known from its geometry without drawing it. */
export interface DesignBoxes {
  /** Contract, section 2: shapes with outlines and plates, without shadow and glow. */
  readonly ink: Box;
  /** All that is drawn. */
  readonly reach: Box;
}

export interface ShownLayer {
  readonly layer: Layer;
  readonly silhouette: Silhouette & { readonly ink: Box };
}

/** Layers that are not hidden and have something to show. */
export function shownLayers({ layers }: Design, context: DrawContext): ShownLayer[] {
  return layers
    .filter((layer) => !layer.hidden)
    .map((layer) => ({ layer, silhouette: silhouetteOf(layer, context) }))
    .filter((entry): entry is ShownLayer => entry.silhouette.ink !== null);
}

/** Null where nothing is visible. */
export function measureDesign(design: Design, context: DrawContext): DesignBoxes | null {
  const shown = shownLayers(design, context);
  if (shown.length === 0) return null;
  const whole = finishedBoxes(design.finishes, inkOfShown(shown));
  const each = shown.map((entry) => layerBoxes(entry));
  const ink = unionBox([whole.ink, ...each.map((boxes) => boxes.ink)]) as Box;
  return { ink, reach: unionBox([ink, whole.reach, ...each.map(({ reach }) => reach)]) as Box };
}

/** Boxes of one layer, where it lies. */
export function layerBoxes({ layer: { finishes, place }, silhouette }: ShownLayer): DesignBoxes {
  const { ink, reach } = finishedBoxes(finishes, silhouette.ink);
  return { ink: moved(ink, place.x, place.y), reach: moved(reach, place.x, place.y) };
}

/** The layers' own ink together, without any finish. */
export function inkOfShown(shown: readonly ShownLayer[]): Box {
  return unionBox(
    shown.map(({ layer: { place }, silhouette }) => moved(silhouette.ink, place.x, place.y)),
  ) as Box;
}

/**
 * What finishes make of an ink box.
 *
 * @returns `bare` with an outline only, which is what a plate is laid round and a shadow falls from
 */
export function finishedBoxes(
  finishes: readonly Finish[],
  ink: Box,
): DesignBoxes & { readonly bare: Box } {
  const outline = finishOf(finishes, 'outline');
  const plate = finishOf(finishes, 'plate');
  const shadow = finishOf(finishes, 'shadow');
  const glow = finishOf(finishes, 'glow');
  const bare = outline ? grownBox(ink, outlineReach(outline)) : ink;
  const [dx, dy] = shadow ? shadowShift(shadow) : [0, 0];
  return {
    bare,
    ink: plate ? plateBox(plate, bare) : bare,
    reach: unionBox([
      bare,
      plate && plateReach(plate, bare),
      shadow && grownBox(moved(bare, dx, dy), softReach(shadowSigma(shadow))),
      glow && grownBox(bare, softReach(glowSigma(glow))),
    ]) as Box,
  };
}

/** How far an outline widens a silhouette, units. */
export function outlineReach({ width, position }: FinishOf<'outline'>): number {
  return unitsOf(width) * (position === 'outside' ? 1 : 0.5);
}

export function finishOf<K extends FinishKind>(
  finishes: readonly Finish[],
  kind: K,
): FinishOf<K> | null {
  return (finishes.find((finish) => finish.kind === kind) as FinishOf<K> | undefined) ?? null;
}

function moved(box: Box, x: number, y: number): Box {
  return { ...box, x: box.x + x, y: box.y + y };
}
