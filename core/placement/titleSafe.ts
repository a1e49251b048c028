import type { Box, Size } from './geometry.ts';

/**
 * Shares of a frame's width and height, about its middle, in which what happens and what is read is safe from
 * being cut off by a screen (Recommendation ITU-R BT.1848-1, EBU R 95: 93 % and 90 % for wide pictures).
 */
export const ACTION_SAFE = 0.93;
export const TITLE_SAFE = 0.9;

/** @param share of the frame, 0 to 1 */
export function safeBox({ width, height }: Size, share: number): Box {
  const around = (1 - share) / 2;
  return { x: width * around, y: height * around, width: width * share, height: height * share };
}
