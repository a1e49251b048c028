/** Reading of bits in words of 32. */

/** 32 bits from a place on. */
export function wordAt(words: Int32Array, at: number): number {
  const index = at >>> 5;
  const shift = at & 31;
  return (words[index] << shift) | ((words[index + 1] >>> 1) >>> (31 - shift));
}

/** A value as it follows its code (T.81, F.2.2.1): what begins with 0 is negative. @param bits 0 to 15 */
export function valueOf(word: number, codeBits: number, bits: number): number {
  const isPositive = (word << codeBits) >> 31;
  return bitsAt(word, codeBits, bits) + (~isPositive & (1 - (1 << bits)));
}

/** @param bits 0 to 31 */
export function bitsAt(word: number, from: number, bits: number): number {
  return ((word << from) >>> 1) >>> (31 - bits);
}
