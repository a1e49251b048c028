import { CallError } from './exit.ts';

/** @param what the option; @param otherwise where nothing was said */
export function wholeNumber(
  what: string,
  text: string | undefined,
  otherwise: number,
  least: number,
  most: number,
): number {
  if (text === undefined) return otherwise;
  const number = Number(text);
  if (!Number.isInteger(number) || number < least || number > most) {
    throw new CallError(
      `Expected a whole number from ${least} to ${most} for ${what}, found "${text}".`,
    );
  }
  return number;
}
