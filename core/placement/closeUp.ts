import type { Box, Size } from './geometry.ts';

/** What a close-up leaves free round the mark, as a share of its larger side. */
const MARGIN = 0.22;

/**
 * The part of a frame that shows a mark close: the mark with a margin, in the shape of the picture, as
 * far inside the frame as it can be.
 *
 * @param mark its box in pixels of the frame
 * @param shape of the picture; only its proportions count
 */
export function closeUp(frame: Size, mark: Box, shape: Size): Box {
  const margin = MARGIN * Math.max(mark.width, mark.height);
  const wanted = { width: mark.width + 2 * margin, height: mark.height + 2 * margin };
  const most = Math.min(frame.width / shape.width, frame.height / shape.height);
  const scale = Math.max(wanted.width / shape.width, wanted.height / shape.height);
  const width = shape.width * Math.min(scale, most);
  const height = shape.height * Math.min(scale, most);
  const inside = (at: number, room: number): number => Math.min(Math.max(0, at), Math.max(0, room));
  return {
    x: inside(mark.x + mark.width / 2 - width / 2, frame.width - width),
    y: inside(mark.y + mark.height / 2 - height / 2, frame.height - height),
    width,
    height,
  };
}
