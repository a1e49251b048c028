import { mkdirSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { createApp } from './app.ts';
import { readConfig } from './config.ts';
import { buildHouse, type House } from './house.ts';
import { layStartingDeliveries } from './startingDeliveries.ts';
import { takeUpRestore } from './backup/takeUpRestore.ts';
import type { Crew } from './workers/openCrew.ts';
import { lockData } from './storage/dataLock.ts';

/** Starts the server, and says where it is. */
const config = readConfig();
const log = pino({ level: config.logLevel });
mkdirSync(config.dataFolder, { recursive: true });
const lock = lockData(config.dataFolder);
if ('heldBy' in lock) {
  process.stderr.write(`Light Crest already runs with this data, at ${lock.heldBy}\n`);
  process.exit(1);
}
const { setAddress } = lock;
const takenUp = takeUpRestore(config.dataFolder);
if (takenUp) {
  const kept = takenUp.before ? ` What was there is kept in ${takenUp.before}` : '';
  process.stdout.write(`A backup was taken up.${kept}\n`);
}
/** A page that asks again does so within a day. */
const ANSWERS_KEPT_MS = 86_400_000;

const crew = await openWorkers();
const house = openHouse();

/** Loaded only where workers are asked for. */
async function openWorkers(): Promise<Crew | null> {
  if (!config.crew) return null;
  const { openCrew } = await import('./workers/openCrew.ts');
  const opened = await openCrew(config.crew, config.dataFolder, log);
  if (opened.ok) return opened.value;
  process.stderr.write(`The server was not started. ${opened.reason}\n`);
  process.exit(1);
}

/** The data itself may be in the way: a full or read-only disk, a database of a newer version. */
function openHouse(): House {
  try {
    return buildHouse(config, log, crew);
  } catch (error) {
    log.debug(error, 'the data could not be opened');
    process.stderr.write(
      `Light Crest could not open its data in ${config.dataFolder} (${(error as Error).message}). ` +
        'Its disk may be full or read-only.\n',
    );
    process.exit(1);
  }
}

let port = config.port;
const developmentOrigin = process.env.LIGHT_CREST_DEV;
const app = createApp(house, {
  port: () => port,
  extraOrigins: developmentOrigin ? [developmentOrigin] : [],
});
const server = createServer(app);

server.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EADDRINUSE') {
    process.stderr.write(
      `Port ${port} is in use, perhaps by another Light Crest. Set LIGHT_CREST_PORT to another one.\n`,
    );
  } else {
    process.stderr.write(`The server could not start: ${error.message}\n`);
  }
  process.exit(1);
});

server.listen(port, config.host, () => {
  port = (server.address() as AddressInfo).port;
  const address = `http://${config.host}:${port}`;
  // Said first: a disk without room must not keep anybody from making some.
  process.stdout.write(`Light Crest is at ${address}\n`);
  takeUp(layStartingDeliveries(house.tables), 'there are no deliveries to begin with');
  takeUp(noteStart(address), 'the address and old answers are not noted');
  house.bin.clearDaily((error) => log.error(error, 'old things in the bin stay'));
  takeUp(house.queue.recover(), 'runs wait for the next start');
  takeUp(house.imports.recover(), 'imports wait for the next start');
  takeUp(house.lifts.recover(), 'lifts wait for the next start');
  takeUp(
    house.pictures.prepare(house.tables.marks.all()),
    'marks are drawn when they are asked for',
  );
  house.inboxes.start();
  takeUp(house.learnWords(), 'words of older photos wait for the next start');
  takeUp(house.scans.tidy(), 'old scans stay');
  takeUp(house.designs.tidy(), 'old artwork stays');
});

/** Asynchronous, so that what it throws is caught with the rest. */
async function noteStart(address: string): Promise<void> {
  await setAddress(address);
  house.tables.answers.removeOlderThan(new Date(Date.now() - ANSWERS_KEPT_MS));
}

/** What is begun at the start, and must not keep the server from starting. */
function takeUp(work: Promise<void>, otherwise: string): void {
  work.catch((error: unknown) => log.error(error, otherwise));
}

// Each promise has an owner that catches. Should one be missed, the work of all others goes on.
process.on('unhandledRejection', (error) => log.error(error, 'a failure that nobody looked after'));
process.on('uncaughtException', (error) => log.error(error, 'an error that nobody looked after'));

let isEnding = false;
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    if (isEnding) return;
    isEnding = true;
    server.close();
    server.closeAllConnections();
    house.close().finally(() => process.exit(0));
  });
}
