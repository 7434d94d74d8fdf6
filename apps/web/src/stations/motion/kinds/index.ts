import type { Mover, MoverKind } from '@abyssal/core';
import { envelope } from './envelope';
import type { MoverView } from './mover-view';
import { wobble } from './wobble';

const MOVER_VIEWS = { wobble, envelope } satisfies { [K in MoverKind]: MoverView<K> };

/** What a mover's kind brings to the pages. */
export const viewOf = (mover: Mover) => MOVER_VIEWS[mover.kind] as MoverView<MoverKind>;
