import { fileURLToPath } from 'node:url';
import { createApp } from '../app.js';
import { connect, migrateDatabase } from '../database/connect.js';
import { defineModels } from '../database/models.js';
import { DatabaseStartError, startOwnDatabase } from '../database/own-mariadb.js';
import { loadDemoOnce } from '../demo/load-demo.js';
import { SoundsService } from '../sounds/sounds.service.js';
import { OptionError, readOptions } from './options.js';

const root = fileURLToPath(new URL('../../../..', import.meta.url)).replace(/\/$/, '');

/** Starts database and server, and ends both with the process. */
async function main(): Promise<void> {
  const options = readOptions(process.argv.slice(2), root);
  const database = await startOwnDatabase(options.data);
  const stops: (() => Promise<unknown>)[] = [() => database.stop()];
  let ending = false;
  const end = async (code: number) => {
    if (ending) return;
    ending = true;
    for (const stop of stops.reverse()) await stop().catch(() => undefined);
    process.exit(code);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
    process.on(signal, () => {
      void end(0);
    });
  try {
    const sequelize = connect(database.address);
    defineModels(sequelize);
    await migrateDatabase(sequelize);
    const app = await createApp(sequelize, options.web);
    if (options.demo) await loadDemoOnce(app.get(SoundsService));
    const server = await app.listen(options.port, '127.0.0.1');
    stops.push(() => {
      server.closeAllConnections();
      return app.close();
    });
    const { port } = server.address() as { port: number };
    process.stdout.write(
      `Abyssal is at http://127.0.0.1:${port}  (Ctrl-C ends it; data in ${options.data})\n`,
    );
  } catch (error) {
    const busy = (error as { code?: string }).code === 'EADDRINUSE';
    process.stderr.write(
      busy
        ? `port ${options.port} is taken; give another with --port\n`
        : `${error instanceof Error ? error.stack : String(error)}\n`,
    );
    await end(1);
  }
}

main().catch((error: unknown) => {
  const known = error instanceof DatabaseStartError || error instanceof OptionError;
  process.stderr.write(`${known ? error.message : error instanceof Error ? error.stack : String(error)}\n`);
  process.exit(1);
});
