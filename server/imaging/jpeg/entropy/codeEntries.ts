/**
 * How the tables by which coefficients are read say what the bits mean that come next. As objects, from which each
 * reader takes its own constants: those that a file exports are looked up each time in an innermost loop.
 */

export const BLOCK = Object.freeze({
  COEFFICIENTS: 64,
  /** More than a code takes, with its value. */
  MOST_BITS: 32,
});

/** A code by 16 bits; 0: they mean nothing. */
export const ONE_CODE = Object.freeze({
  /** How many of them are meant. */
  BITS: 0xff,
  /** How many coefficients they stand for. */
  STEP_AT: 8,
  /** Those are the block's last. */
  IS_LAST: 1 << 16,
  /** Of how many bits the value at their end is. */
  VALUE_BITS_AT: 20,
  /** Of what stands for the same by other tables: how many bits, and above that number the bits themselves. */
  RECODED_AT: 8,
});

/** All codes that lie in some bits whole; 0: not one, or what stands for the first is too long. */
export const MANY_CODES = Object.freeze({
  /** Bits that are looked up. */
  LOOKED_UP: 13,
  /** How many of them are meant. */
  MANY_BITS: 0xf,
  /** How many coefficients they stand for. */
  MANY_STEP_AT: 4,
  MANY_STEP: 0x3f,
  /** Those are the block's last. */
  MANY_IS_LAST: 1 << 10,
  /** How many bits stand for the same by other tables, and, highest, these themselves. */
  MADE_LENGTH_AT: 11,
  MADE_LENGTH: 0x1f,
  MADE: -(1 << 16),
  MOST_MADE: 16,
});
