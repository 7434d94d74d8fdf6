import { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import type { DatabaseAddress } from './address.js';
import { MIGRATIONS } from './migrations/index.js';

/**
 * A pool of connections that gives up within seconds, so that a request is answered while the database is
 * away.
 */
export function connect({ database, username, password, host, port }: DatabaseAddress): Sequelize {
  return new Sequelize(database, username, password, {
    dialect: 'mariadb',
    host,
    port,
    logging: false,
    timezone: '+00:00',
    // About two for each core of a small machine: more at once would only make all of them late.
    pool: { max: 4, min: 0, acquire: 4000, idle: 10_000 },
    // JSON columns come as text: the document is parsed where it is wanted.
    dialectOptions: { connectTimeout: 2000, socketTimeout: 10_000, jsonStrings: true },
  });
}

/** Brings the tables to the present state. */
export async function migrateDatabase(sequelize: Sequelize): Promise<void> {
  const db = sequelize.getQueryInterface();
  const umzug = new Umzug({
    migrations: MIGRATIONS.map((each) => ({
      name: each.name,
      up: () => each.up(db),
      down: () => each.down(db),
    })),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  await umzug.up();
}
