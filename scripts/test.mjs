import {
  bin,
  ensureBuilt,
  ensureChromium,
  ensureInstalled,
  ensureJpegTools,
  ensureRedis,
  run,
  say,
} from './house.mjs';

/** `npm test`: everything that must hold, on a fresh machine too. */

ensureInstalled();
ensureChromium();
ensureJpegTools();
ensureRedis();
step('Lint', 'npm', ['run', '--silent', 'lint']);
step('Types', 'npm', ['run', '--silent', 'types']);
step('Unit tests', bin('vitest'), ['run', '--project', 'unit', '--project', 'page']);
step('Integration tests', bin('vitest'), ['run', '--project', 'integration']);
step('Faults', bin('vitest'), ['run', '--project', 'faults']);
ensureBuilt();
step('Browser tests', bin('playwright'), ['test']);
say('All tests passed.');

function step(name, command, words) {
  say(`\n${name}`);
  run(command, words);
}
