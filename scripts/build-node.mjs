import { join } from 'node:path';
import { build } from 'esbuild';
import { root } from './house.mjs';

/**
 * `node scripts/build-node.mjs FOLDER`: server, imaging processes, command line and the demo's seed as
 * files that start at once.
 */

/**
 * Packages with parts that are not JavaScript, or that look for files beside their own, stay where they
 * are. The others go into the bundle, since finding hundreds of small files takes longer than running
 * them.
 */
const LEFT_WHERE_THEY_ARE = [
  '@napi-rs/canvas',
  'better-sqlite3',
  'css-tree',
  'harfbuzzjs',
  'heic-decode',
  'libheif-js',
  'pdfjs-dist',
  'pdfkit',
  'pino',
  'pino-http',
  'sharp',
  'wawoff2',
  'workerpool',
];

await build({
  entryPoints: {
    cli: join(root, 'cli/main.ts'),
    imagingProcess: join(root, 'server/imaging/pool/imagingProcess.ts'),
    seed: join(root, 'demo/seed.ts'),
    server: join(root, 'server/main.ts'),
  },
  outdir: process.argv[2],
  bundle: true,
  splitting: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  external: LEFT_WHERE_THEY_ARE,
  // Older packages ask for the parts of Node.js by a function that modules do not have.
  banner: {
    js: "import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);",
  },
  // Numbers that have a name become part of what is reckoned with them, instead of being looked up each time.
  minifySyntax: true,
  sourcemap: 'linked',
  logLevel: 'warning',
});
