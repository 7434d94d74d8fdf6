import type { QueryInterface } from 'sequelize';
import * as first from './0001-sounds-and-assets.js';
import * as second from './0002-parts.js';
import * as third from './0003-parts-restored.js';
import * as fourth from './0004-narrow-sounds.js';
import * as fifth from './0005-uses-of-recordings.js';
import * as sixth from './0006-recordings-in-pieces.js';
import * as seventh from './0007-kept-states.js';

/** Every migration, in order; a name that has run once is never changed. */
export const MIGRATIONS: readonly {
  name: string;
  up(db: QueryInterface): Promise<void>;
  down(db: QueryInterface): Promise<void>;
}[] = [
  { name: '0001-sounds-and-assets', up: first.up, down: first.down },
  { name: '0002-parts', up: second.up, down: second.down },
  { name: '0003-parts-restored', up: third.up, down: third.down },
  { name: '0004-narrow-sounds', up: fourth.up, down: fourth.down },
  { name: '0005-uses-of-recordings', up: fifth.up, down: fifth.down },
  { name: '0006-recordings-in-pieces', up: sixth.up, down: sixth.down },
  { name: '0007-kept-states', up: seventh.up, down: seventh.down },
];
