import type { Server } from 'node:http';
import { fileURLToPath } from 'node:url';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { createApp } from '../app.js';
import { connect, migrateDatabase } from '../database/connect.js';
import { defineModels } from '../database/models.js';
import { startOwnDatabase } from '../database/own/own-mariadb.js';
import { ownFolder } from '../database/own/owner.js';
import { DatabaseStartError } from '../database/own/start-error.js';
import { loadDemoOnce } from '../demo/load-demo.js';
import { PartsService } from '../parts/parts.service.js';
import { SoundsService } from '../sounds/sounds.service.js';
import { OptionError, readOptions, type StartOptions } from './options.js';
import { Stops } from './stops.js';

const root = fileURLToPath(new URL('../../../..', import.meta.url)).replace(/\/$/, '');

const tell = (sentence: string) => {
  process.stderr.write(`${sentence}\n`);
};

/** Nest's own way would write of a port that is taken in its own words. */
async function listenAt(app: NestExpressApplication, port: number): Promise<Server> {
  await app.init();
  const server = app.getHttpServer();
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  return server;
}

/** Starts database and server; what is begun is put on `stops` at once. */
async function start(options: StartOptions, stops: Stops): Promise<void> {
  const folder = await ownFolder(options.data);
  stops.add(() => {
    folder.giveBack();
  });
  const database = await startOwnDatabase(options.data, tell, stops.signal);
  stops.add(() => database.stop());
  const sequelize = connect(database.address);
  defineModels(sequelize);
  await migrateDatabase(sequelize);
  stops.signal.throwIfAborted();
  const app = await createApp(sequelize, {
    web: options.web,
    data: options.data,
    mostRecordingBytes: options.recordingsGb * 1e9,
    databaseGivenUp: () => database.givenUp(),
  });
  if (options.demo) await loadDemoOnce(app.get(SoundsService), app.get(PartsService));
  stops.signal.throwIfAborted();
  const server = await listenAt(app, options.port);
  // Where the database hangs, so do the connections to it.
  stops.add(() => {
    server.closeAllConnections();
    return app.close();
  }, 2500);
  const { port } = server.address() as { port: number };
  const address = `http://127.0.0.1:${port}`;
  folder.servesAt(address);
  process.stdout.write(`Abyssal is at ${address}  (Ctrl-C ends it; data in ${options.data})\n`);
}

function explain(error: unknown, port: number): string {
  if (error instanceof DatabaseStartError || error instanceof OptionError) return error.message;
  if ((error as { code?: string }).code === 'EADDRINUSE')
    return `port ${port} is taken; give another with --port`;
  return error instanceof Error ? (error.stack ?? error.message) : String(error);
}

/** Runs until a signal comes; all that was begun is ended with it, and where the start fails. */
async function main(): Promise<void> {
  const stops = new Stops();
  let starting: Promise<void> = Promise.resolve();
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
    process.on(signal, () => {
      void stops.end(starting).then(() => process.exit(0));
    });
  let port = 0;
  try {
    const options = readOptions(process.argv.slice(2), root);
    ({ port } = options);
    starting = start(options, stops);
    await starting;
  } catch (error) {
    // Where a signal ended the start, what was under way fails; that is no fault of the start's.
    if (stops.signal.aborted) return;
    tell(explain(error, port));
    await stops.end(Promise.resolve());
    process.exit(1);
  }
}

void main();
