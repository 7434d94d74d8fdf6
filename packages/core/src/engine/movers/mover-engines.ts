import type { Mover, MoverKind } from '../../document/index.js';
import { envelope } from './envelope-runner.js';
import type { MoverEngine } from './mover-runner.js';
import { wobble } from './wobble-runner.js';

const MOVER_ENGINES = { wobble, envelope } satisfies { [K in MoverKind]: MoverEngine<K> };

/** What a mover's kind brings to the engine. */
export const engineOf = (mover: Mover) => MOVER_ENGINES[mover.kind] as MoverEngine<MoverKind>;
