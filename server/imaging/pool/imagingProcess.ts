import { imagingTasks } from './imagingTasks.ts';
import { servePool } from './servePool.ts';

/** What an imaging process starts with. */
servePool(imagingTasks);
