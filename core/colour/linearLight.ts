/** The sRGB transfer curve, IEC 61966-2-1, and the luminance of linear light (Rec. 709, D65). */

/** Shares of red, green and blue in luminance; they add up to 1. */
export const LUMINANCE_WEIGHTS = [0.212_672_9, 0.715_152_2, 0.072_175] as const;

const LARGEST = 255;

/** @param encoded 0 to 1 */
export function linearLight(encoded: number): number {
  return encoded <= 0.040_45 ? encoded / 12.92 : ((encoded + 0.055) / 1.055) ** 2.4;
}

/** @param linear 0 to 1; the inverse of `linearLight` */
export function encodedLight(linear: number): number {
  return linear <= 0.003_130_8 ? linear * 12.92 : 1.055 * linear ** (1 / 2.4) - 0.055;
}

/** Linear light, 0 to 1, of each 8-bit sRGB value. */
export const LINEAR_OF_BYTE: Float32Array = Float32Array.from({ length: LARGEST + 1 }, (_, value) =>
  linearLight(value / LARGEST),
);

const ENCODING_STEPS = 4_096;

const BYTE_OF_LINEAR = Uint8Array.from({ length: ENCODING_STEPS * 2 + 1 }, (_, step) =>
  Math.round(LARGEST * encodedLight((step / ENCODING_STEPS / 2) ** 2)),
);

/** The nearest 8-bit sRGB value of a linear one; values beyond 0 to 1 are held there. */
export function byteOfLinear(linear: number): number {
  if (!(linear > 0)) return 0;
  if (linear >= 1) return LARGEST;
  // Steps are even in the square root, close to how the curve spends its values.
  return BYTE_OF_LINEAR[Math.round(Math.sqrt(linear) * ENCODING_STEPS * 2)];
}
