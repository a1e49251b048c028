import { mkdirSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { createApp } from './app.ts';
import { readConfig } from './config.ts';
import { buildHouse } from './house.ts';
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
const house = buildHouse(config, log);

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
  house.close();
  process.exit(1);
});

server.listen(port, config.host, () => {
  port = (server.address() as AddressInfo).port;
  const address = `http://${config.host}:${port}`;
  lock.setAddress(address);
  house.queue.recover();
  house.scans.tidy().catch((error: unknown) => log.warn(error, 'old scans stay'));
  house.designs.tidy().catch((error: unknown) => log.warn(error, 'old artwork stays'));
  process.stdout.write(`Light Crest is at ${address}\n`);
});

for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    server.close();
    server.closeAllConnections();
    house.close();
    process.exit(0);
  });
}
