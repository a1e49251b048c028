import type { Layer } from '../contract/design.ts';
import type { Point, Size } from '../placement/geometry.ts';
import { boxAround, centreOf, rotatedSize, turned, type Box } from '../placement/geometry.ts';
import type { DrawContext } from './context.ts';
import { ownInk } from './silhouette.ts';

/** A layer as a hand takes hold of it: its ink as an upright rectangle, then turned. */
export interface LayerFrame extends Size {
  readonly centre: Point;
  /** Degrees clockwise. */
  readonly turn: number;
}

/** Null for a layer with nothing to see. */
export function layerFrame(layer: Layer, context: DrawContext): LayerFrame | null {
  const own = ownInk(layer, context);
  if (!own) return null;
  const { x, y, scaleX, scaleY, turn } = layer.place;
  const middle = centreOf(own);
  const away = turned({ x: middle.x * scaleX, y: middle.y * scaleY }, turn);
  return {
    centre: { x: x + away.x, y: y + away.y },
    width: own.width * scaleX,
    height: own.height * scaleY,
    turn,
  };
}

/** The upright box round a frame. */
export function frameBox({ centre, width, height, turn }: LayerFrame): Box {
  return boxAround(centre, rotatedSize({ width, height }, turn));
}

/** The layer sized, turned and moved so that it has this frame. */
export function withFrame(layer: Layer, frame: LayerFrame, context: DrawContext): Layer {
  const own = ownInk(layer, context);
  if (!own) return layer;
  const shape = layer.kind === 'shape' ? layer.shape : null;
  const scaleX = shape ? 1 : limited(frame.width / own.width);
  const scaleY = shape ? 1 : limited(frame.height / own.height);
  const middle = centreOf(own);
  const away = turned({ x: middle.x * scaleX, y: middle.y * scaleY }, frame.turn);
  const place = {
    ...{ scaleX, scaleY, turn: tidyTurn(frame.turn) },
    x: frame.centre.x - away.x,
    y: frame.centre.y - away.y,
  };
  if (!shape || layer.kind !== 'shape') return { ...layer, place };
  // A shape keeps the weight of its strokes and its corners, so its measures change, not its scale.
  const width = Math.max(frame.width, LEAST_SIDE);
  const height = Math.max(frame.height, LEAST_SIDE);
  return { ...layer, place, shape: { ...shape, width, height } };
}

/** A shape is never thinner than this, units. */
const LEAST_SIDE = 0.5;
const LEAST_SCALE = 0.001;
const MOST_SCALE = 1_000;

function limited(scale: number): number {
  return Math.min(MOST_SCALE, Math.max(LEAST_SCALE, scale));
}

/** −180 to 180. */
function tidyTurn(turn: number): number {
  const within = ((((turn + 180) % 360) + 360) % 360) - 180;
  return Math.round(within * 100) / 100;
}
