import { z } from 'zod';
import { namePatternProblem } from '../delivery/namePattern.ts';

/** What a delivery says that makes a show of photos, which plays in a browser. */

export const SHOW_CHANGES = ['cut', 'fade'] as const;
/** On each photo by its preset, or standing still in a corner of the screen. */
export const SHOW_MARKS = ['photo', 'screen'] as const;

const LEAST_SECONDS = 1;
const MOST_SECONDS = 60;
const TITLE_MAX = 120;

export const showSchema = z.strictObject({
  seconds: z.number().min(LEAST_SECONDS).max(MOST_SECONDS).default(5),
  change: z.enum(SHOW_CHANGES).default('fade'),
  title: z.string().trim().max(TITLE_MAX).nullable().default(null).meta({
    description: 'on a card before the first photo, with the mark large; null: no card',
  }),
  mark_on: z.enum(SHOW_MARKS).default('photo'),
  caption: z
    .string()
    .nullable()
    .default(null)
    .check((context) => {
      const problem = context.value === null ? null : namePatternProblem(context.value);
      if (problem) context.issues.push({ code: 'custom', message: problem, input: context.value });
    })
    .meta({ description: 'with the tokens of file names; null: none' }),
  loop: z.boolean().default(true),
});

export type ShowRule = z.infer<typeof showSchema>;
