import { LRUCache } from 'lru-cache';
import type { z } from 'zod';

const MOST = 1_000;

/**
 * Reads stored JSON by a schema: what was read before is not read again. A run is asked for with each of
 * its outputs, and most of what is stored of it is its rules.
 */
export function parseOnce<T extends z.ZodType>(schema: T): (text: string) => z.output<T> {
  const known = new LRUCache<string, { readonly value: z.output<T> }>({ max: MOST });
  return (text) => {
    const found = known.get(text) ?? { value: schema.parse(JSON.parse(text)) };
    known.set(text, found);
    return found.value;
  };
}
