import type { z } from 'zod';
import { validate } from '#core/contract/explain';
import { HttpError } from './errors.ts';

/** The value as the schema makes it, or a 400 that says what is wrong with which key. */
export function validated<T>(schema: z.ZodType<T>, value: unknown): T {
  const checked = validate(schema, value ?? {});
  if (checked.ok) return checked.value;
  const details = Object.fromEntries(
    checked.problems.map((problem) => [problem.key, problem.sentence]),
  );
  throw new HttpError(400, 'invalid', checked.reason, details);
}
