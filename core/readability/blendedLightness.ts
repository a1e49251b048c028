import type { Rgb } from '../colour/hex.ts';
import { blendTable, lum } from '../compose/blendModes.ts';
import type { Blend } from '../contract/preset.ts';
import { lightness } from './lightness.ts';
import { BYTES_PER_LIGHTNESS } from './lightMap.ts';

const BYTES = 256;
/** L* of each grey, to find the grey of a lightness. */
const GREYS = Float32Array.from({ length: BYTES }, (_, grey) => lightness(grey, grey, grey));

/**
 * L* of a mark's colour laid over a grey ground, by the byte of the ground's L* in a light map.
 *
 * @param colour red, green and blue, 0 to 255
 * @param opacity 0 to 1
 */
export function blendedLightness(
  colour: Rgb,
  opacity: number,
  blend: Blend = 'normal',
): Float32Array {
  const table = blend === 'luminosity' ? null : blendTable(blend);
  // On a grey ground, luminosity gives a grey of the mark's own.
  const own = lum(colour[0], colour[1], colour[2]);
  let grey = 0;
  return Float32Array.from({ length: BYTES }, (_, byte) => {
    const ground = byte / BYTES_PER_LIGHTNESS;
    while (grey < BYTES - 1 && GREYS[grey] < ground) grey++;
    const mixed = colour.map((value) => {
      const over = table ? table[(grey << 8) + value] : own;
      return Math.round(grey * (1 - opacity) + over * opacity);
    });
    return lightness(mixed[0], mixed[1], mixed[2]);
  });
}

/** What a rescue makes of a ground: L* by the byte of the ground's own, and what is left of its spread. */
export interface SeenGround {
  readonly lightness: Float32Array;
  readonly spread: number;
}

export const BARE_GROUND: SeenGround = Object.freeze({
  lightness: Float32Array.from({ length: BYTES }, (_, byte) => byte / BYTES_PER_LIGHTNESS),
  spread: 1,
});

/** @param strength of the rescue, 0 to 1 */
export function rescuedGround(colour: Rgb, strength: number): SeenGround {
  return { lightness: blendedLightness(colour, strength), spread: 1 - strength };
}
