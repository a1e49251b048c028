import { setPriority } from 'node:os';
import { imagingTasks } from './imagingTasks.ts';
import { servePool } from './servePool.ts';

/** What an imaging process starts with. */

/** Behind the server and the browser, so that a hand on the page is not held up by what is drawn. */
const NICENESS = 5;
try {
  setPriority(NICENESS);
} catch {
  // Where a system does not let it, everything goes on as it is, only less smoothly.
}
servePool(imagingTasks);
