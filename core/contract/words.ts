import { z } from 'zod';
import { WORD_TOKENS, type WordToken } from '../lettering/words.ts';

/** How words of a photo go between page and server. */

export const WORD_MAX_LENGTH = 2_000;

const word = z.string().max(WORD_MAX_LENGTH);

export const photoWordsSchema = z.strictObject(
  Object.fromEntries(WORD_TOKENS.map((token) => [token, word])) as Record<WordToken, typeof word>,
);

/** A JSON list of words, in the order of a mark's tokens. */
export const wordsText = z
  .string()
  .max(WORD_MAX_LENGTH * WORD_TOKENS.length)
  .transform((text, context): string[] => {
    try {
      return z.array(word).max(WORD_TOKENS.length).parse(JSON.parse(text));
    } catch {
      context.addIssue({ code: 'custom', message: 'a JSON list of words', input: text });
      return z.NEVER;
    }
  });
