/**
 * How the tables by which coefficients are read say what the bits mean that come next. Nothing but numbers: from such
 * a file they become part of the loops that are built with them, else they are looked up for each code.
 */

/** Of a block. */
export const COEFFICIENTS = 64;
/** More than a code takes, with its value. */
export const MOST_BITS = 32;

/** An entry by 16 bits; 0: they mean nothing. How many of them are meant: */
export const BITS = 0xff;
/** How many coefficients they stand for. */
export const STEP_AT = 8;
/** Those are the block's last. */
export const IS_LAST = 0x1_0000;
/** Of how many bits the value at their end is. */
export const VALUE_BITS_AT = 20;

/** Of what stands for the same by other tables: how many bits, as above, and from here on the bits themselves. */
export const RECODED_AT = 8;

/** An entry for all codes that lie in fewer bits whole: how many bits are looked up. */
export const LOOKED_UP = 13;
/** How many of them are meant; 0: no code lies in them whole, or what stands for the first is too long. */
export const MANY_BITS = 0xf;
/** How many coefficients they stand for. */
export const MANY_STEP_AT = 4;
export const MANY_STEP = 0x3f;
/** Those are the block's last. */
export const MANY_IS_LAST = 0x400;
/** How many bits stand for the same by other tables, and, highest, these themselves. */
export const MADE_LENGTH_AT = 11;
export const MADE_LENGTH = 0x1f;
export const MADE = -0x1_0000;
export const MOST_MADE = 16;

/** The same where nothing is written: how many of the bits are codes that lie in them whole. */
export const READ_BITS = 0x1f;
/** How many coefficients these stand for. */
export const COUNT_AT = 5;
export const COUNT = 0x7f;
/** Those are the block's last. */
export const ENDS = 0x1000;
/** By how much the first differs from the one before it. */
export const DIFFERENCE_AT = 16;
