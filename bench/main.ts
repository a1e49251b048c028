import { existsSync } from 'node:fs';
import { ensureNodeBuilt } from '../scripts/house.mjs';
import { crewBench } from './crewBench.ts';
import { designBench } from './designBench.ts';
import { exportBench } from './exportBench.ts';
import { liftBench, shadowBench } from './liftBench.ts';
import { liftSpeedBench } from './liftSpeedBench.ts';
import { printTable } from './measure.ts';
import { passesBench } from './passesBench.ts';
import { pageBench } from './pageBench.ts';
import { readabilityBench } from './readabilityBench.ts';
import { sheetsBench } from './sheetsBench.ts';
import { serverBench } from './serverBench.ts';
import { startsBench } from './startsBench.ts';

/** `npm run bench`: the figures that are promised, each against its rival in the same run. */

for (const tool of ['/usr/bin/vips', '/usr/bin/convert']) {
  if (existsSync(tool)) continue;
  process.stderr.write(
    `The bench compares with ${tool}; install it: apt-get install libvips-tools imagemagick\n`,
  );
  process.exit(1);
}
// The server as people run it; its memory is another when it is compiled as it starts.
process.env.LIGHT_CREST_BUILT = ensureNodeBuilt();

const BENCHES = {
  starts: startsBench,
  export: exportBench,
  passes: passesBench,
  sheets: sheetsBench,
  server: serverBench,
  workers: crewBench,
  page: pageBench,
  design: designBench,
  readability: readabilityBench,
  shadow: shadowBench,
  lift: async () => [...(await liftBench()), ...(await liftSpeedBench())],
};
const wanted = process.argv[2];
const rows = [];
for (const [name, bench] of Object.entries(BENCHES)) {
  if (wanted === undefined || wanted === name) rows.push(...(await bench()));
}
printTable(rows);
process.exitCode = rows.every((row) => row.isMet) ? 0 : 1;
