import type { RequestHandler } from 'express';
import type { ChangedKind } from '#core/contract/http';
import type { Events } from './events.ts';

/** The name a window gives itself, so that it knows its own changes. */
export const TAB_HEADER = 'Light-Crest-Tab';

/** What a request that changes something is about, by its path; the first that fits counts. */
const ABOUT: readonly (readonly [RegExp, ChangedKind | null])[] = [
  [/^\/designs\/picture$/, null],
  [/^\/(marks|designs)\b/, 'marks'],
  [/^\/scans\/\d+\/lift$/, 'marks'],
  [/^\/presets\b/, 'presets'],
  [/^\/deliveries\b/, 'deliveries'],
  [/^\/inboxes\b/, 'inboxes'],
  [/^\/settings$/, 'settings'],
  [/^\/bin\/marks\b/, 'marks'],
  [/^\/bin\/presets\b/, 'presets'],
  [/^\/bin\/deliveries\b/, 'deliveries'],
  [/^\/bin\b/, 'batches'],
  // Photos that come in and folders that are read tell of themselves.
  [/^\/batches\/\d+\/(photos$|folders\b|opened$)/, null],
  [/^\/batches\b/, 'batches'],
];

const ID = /^\/[a-z]+\/(\d+)/;

/** Tells all windows what was changed, once it was. */
export function tellChanges(events: Events): RequestHandler {
  return (request, response, next) => {
    const { path, method } = request;
    const what = method === 'GET' ? null : ABOUT.find(([pattern]) => pattern.test(path))?.[1];
    if (what) {
      const id = Number(ID.exec(path)?.[1]) || null;
      const tab = request.get(TAB_HEADER) ?? null;
      response.on('finish', () => {
        if (response.statusCode < 300) events.send('changed', { what, id, tab });
      });
    }
    next();
  };
}
