/** What other parts of the project use of the scripts, which are plain JavaScript. */
export const root: string;
export function ensureBuilt(): void;
export function ensureNodeBuilt(): string;
