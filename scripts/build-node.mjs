import { join } from 'node:path';
import { build } from 'esbuild';
import { root } from './house.mjs';

/** Server and imaging processes as single files that start at once; packages stay where they are. */
await build({
  entryPoints: {
    server: join(root, 'server/main.ts'),
    imagingProcess: join(root, 'server/imaging/pool/imagingProcess.ts'),
  },
  outdir: join(root, 'dist/node'),
  bundle: true,
  splitting: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  sourcemap: 'linked',
  logLevel: 'warning',
});
