import type { Db } from './open.ts';

type LastingName =
  'marks' | 'photos' | 'scans' | 'fonts' | 'batches' | 'presets' | 'deliveries' | 'runs';

/** Ids that are never given out twice, so that what a browser keeps under one stays true. */
export function lastingIds(db: Db, name: LastingName): () => number {
  const next = db.prepare<[string], { last: number }>(
    'UPDATE lasting_ids SET last = last + 1 WHERE name = ? RETURNING last',
  );
  return () => {
    const row = next.get(name);
    if (!row) throw new Error(`Expected a row for ${name} in lasting_ids, found none.`);
    return row.last;
  };
}
