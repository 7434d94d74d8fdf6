import type { QueryInterface } from 'sequelize';
import * as first from './0001-sounds-and-assets.js';
import * as second from './0002-parts.js';
import * as third from './0003-parts-restored.js';

/** Every migration, in order; a name that has run once is never changed. */
export const MIGRATIONS: readonly {
  name: string;
  up(db: QueryInterface): Promise<void>;
  down(db: QueryInterface): Promise<void>;
}[] = [
  { name: '0001-sounds-and-assets', up: first.up, down: first.down },
  { name: '0002-parts', up: second.up, down: second.down },
  { name: '0003-parts-restored', up: third.up, down: third.down },
];
