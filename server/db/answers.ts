import type { Db } from './open.ts';

export interface StoredAnswer {
  readonly request: string;
  readonly status: number;
  readonly body: string;
}

/** Answers by the key of their request. */
export function answerTable(db: Db) {
  const one = db.prepare<[string], StoredAnswer>(
    'SELECT request, status, body FROM answers WHERE key = ?',
  );
  const insert = db.prepare(`
    INSERT OR IGNORE INTO answers (key, request, status, body, answered_at) VALUES (?, ?, ?, ?, ?)`);
  const removeOlder = db.prepare<[string]>('DELETE FROM answers WHERE answered_at < ?');

  return {
    get: (key: string): StoredAnswer | null => one.get(key) ?? null,
    put: (key: string, { request, status, body }: StoredAnswer): void =>
      void insert.run(key, request, status, body, new Date().toISOString()),
    removeOlderThan: (date: Date): void => void removeOlder.run(date.toISOString()),
  };
}
