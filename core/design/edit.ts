import type { Design, Layer } from '../contract/design.ts';
import type { Finish, FinishKind } from '../contract/finish.ts';
import { unionBox } from '../path/pathBox.ts';
import { centreOf, type Box, type Point } from '../placement/geometry.ts';
import type { DrawContext } from './context.ts';
import { frameBox, layerFrame } from './frame.ts';

/** Changes to a design; each gives a new one and leaves the old as it was. */

export function withLayer(design: Design, layer: Layer): Design {
  return {
    ...design,
    layers: design.layers.map((some) => (some.id === layer.id ? layer : some)),
  };
}

/** Changes some layers. */
export function changed(
  design: Design,
  ids: ReadonlySet<string>,
  change: (layer: Layer) => Layer,
): Design {
  return {
    ...design,
    layers: design.layers.map((layer) => (ids.has(layer.id) ? change(layer) : layer)),
  };
}

/** On top of all others. */
export function added(design: Design, ...layers: readonly Layer[]): Design {
  return { ...design, layers: [...design.layers, ...layers] };
}

export function without(design: Design, ids: ReadonlySet<string>): Design {
  return { ...design, layers: design.layers.filter(({ id }) => !ids.has(id)) };
}

/** @param order ids from the bottom up; layers not named stay below */
export function inOrder(design: Design, order: readonly string[]): Design {
  const rank = new Map(order.map((id, index) => [id, index]));
  const layers = [...design.layers].sort((a, b) => (rank.get(a.id) ?? -1) - (rank.get(b.id) ?? -1));
  return { ...design, layers };
}

/** How far a copy lies from what it was made of, units. */
const COPY_SHIFT = 24;

/** Copies of layers, just above the topmost of them; a group's copies are a group of their own. */
export function duplicated(
  design: Design,
  ids: ReadonlySet<string>,
  newId: () => string,
): { readonly design: Design; readonly copies: ReadonlySet<string> } {
  const groups = new Map<string, string>();
  const groupOf = (group: string): string => {
    const known = groups.get(group) ?? newId();
    groups.set(group, known);
    return known;
  };
  const copies = design.layers
    .filter(({ id }) => ids.has(id))
    .map((layer): Layer => ({
      ...layer,
      id: newId(),
      group: layer.group && groupOf(layer.group),
      place: { ...layer.place, x: layer.place.x + COPY_SHIFT, y: layer.place.y + COPY_SHIFT },
    }));
  const top = Math.max(...design.layers.map(({ id }, index) => (ids.has(id) ? index + 1 : 0)));
  const layers = [...design.layers.slice(0, top), ...copies, ...design.layers.slice(top)];
  return { design: { ...design, layers }, copies: new Set(copies.map(({ id }) => id)) };
}

export function moved(design: Design, ids: ReadonlySet<string>, { x, y }: Point): Design {
  return changed(design, ids, (layer) => ({
    ...layer,
    place: { ...layer.place, x: layer.place.x + x, y: layer.place.y + y },
  }));
}

/** Whatever is taken with a layer: its group, or itself. Locked layers are not taken. */
export function takenWith({ layers }: Design, id: string): Set<string> {
  const layer = layers.find((some) => some.id === id);
  if (!layer || layer.locked) return new Set();
  const { group } = layer;
  const together = group === null ? [layer] : layers.filter((some) => some.group === group);
  return new Set(together.filter(({ locked }) => !locked).map((some) => some.id));
}

export function grouped(design: Design, ids: ReadonlySet<string>, group: string | null): Design {
  return changed(design, ids, (layer) => ({ ...layer, group }));
}

export type Side = 'left' | 'centre' | 'right' | 'top' | 'middle' | 'bottom';

/**
 * Lays layers to a side of the box round them; a single one to that of the rest of the mark. A
 * group moves as one.
 */
export function aligned(
  design: Design,
  ids: ReadonlySet<string>,
  side: Side,
  context: DrawContext,
): Design {
  const units = unitsOf(design, ids, context);
  const others = design.layers.filter(({ id, hidden }) => !ids.has(id) && !hidden);
  const field = unionBox(
    units.length > 1 ? units.map(({ box }) => box) : others.map((layer) => boxOf(layer, context)),
  );
  if (!field) return design;
  return units.reduce((next, unit) => moved(next, unit.ids, wayTo(side, unit.box, field)), design);
}

function wayTo(side: Side, box: Box, field: Box): Point {
  const [from, to] = [centreOf(box), centreOf(field)];
  switch (side) {
    case 'left':
      return { x: field.x - box.x, y: 0 };
    case 'centre':
      return { x: to.x - from.x, y: 0 };
    case 'right':
      return { x: field.x + field.width - box.x - box.width, y: 0 };
    case 'top':
      return { x: 0, y: field.y - box.y };
    case 'middle':
      return { x: 0, y: to.y - from.y };
    case 'bottom':
      return { x: 0, y: field.y + field.height - box.y - box.height };
    default:
      throw new Error(`Unknown side ${side satisfies never}`);
  }
}

/** Makes the gaps between three or more layers the same; the outermost stay. */
export function spread(
  design: Design,
  ids: ReadonlySet<string>,
  axis: 'x' | 'y',
  context: DrawContext,
): Design {
  const length = axis === 'x' ? 'width' : 'height';
  const units = unitsOf(design, ids, context).sort(
    (a, b) => centreOf(a.box)[axis] - centreOf(b.box)[axis],
  );
  const last = units[units.length - 1];
  if (units.length < 3) return design;
  const room = last.box[axis] + last.box[length] - units[0].box[axis];
  const filled = units.reduce((sum, { box }) => sum + box[length], 0);
  const gap = (room - filled) / (units.length - 1);
  let at = units[0].box[axis];
  return units.reduce((next, unit) => {
    const way = at - unit.box[axis];
    at += unit.box[length] + gap;
    return moved(next, unit.ids, axis === 'x' ? { x: way, y: 0 } : { x: 0, y: way });
  }, design);
}

interface Unit {
  readonly ids: ReadonlySet<string>;
  readonly box: Box;
}

/** Chosen layers by what moves as one. */
function unitsOf({ layers }: Design, ids: ReadonlySet<string>, context: DrawContext): Unit[] {
  const members = new Map<string, Layer[]>();
  for (const layer of layers) {
    if (!ids.has(layer.id)) continue;
    const key = layer.group ?? layer.id;
    members.set(key, [...(members.get(key) ?? []), layer]);
  }
  return [...members.values()].flatMap((some) => {
    const box = unionBox(some.map((layer) => boxOf(layer, context)));
    return box ? [{ ids: new Set(some.map(({ id }) => id)), box }] : [];
  });
}

function boxOf(layer: Layer, context: DrawContext): Box | null {
  const frame = layerFrame(layer, context);
  return frame && frameBox(frame);
}

/** Finishes with one of them set, or with one of a kind taken off. */
export function withFinish(finishes: readonly Finish[], finish: Finish): Finish[] {
  return finishes.some(({ kind }) => kind === finish.kind)
    ? finishes.map((some) => (some.kind === finish.kind ? finish : some))
    : [...finishes, finish];
}

export function withoutFinish(finishes: readonly Finish[], kind: FinishKind): Finish[] {
  return finishes.filter((finish) => finish.kind !== kind);
}

/** The layers' own ink, as if nothing had been finished. */
export function withoutFinishes({ layers }: Design): Design {
  return { layers: layers.map((layer) => ({ ...layer, finishes: [] })), finishes: [] };
}

/** Whether a tone gives all of a design one colour, so that any tone shows what another does. */
export function isOfOneInk({ layers, finishes }: Design): boolean {
  const isPlain = (layer: Layer): boolean => layer.toned && layer.finishes.length === 0;
  return finishes.length === 0 && layers.every((layer) => layer.hidden || isPlain(layer));
}
