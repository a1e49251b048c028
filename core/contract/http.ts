/** What the page asks of the server and what comes back: the only thing the two share. */
export * from './http/batches.ts';
export * from './http/bundles.ts';
export { idParams, versionParams, type EarlierVersion, type ErrorAnswer } from './http/common.ts';
export * from './http/events.ts';
export * from './http/folders.ts';
export * from './http/inboxes.ts';
export * from './http/marks.ts';
export * from './http/presets.ts';
export * from './http/runs.ts';
export * from './http/workers.ts';
