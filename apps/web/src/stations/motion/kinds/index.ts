import type { Mover, MoverKind } from '@abyssal/core';
import { envelope } from './EnvelopePanel';
import type { MoverView } from './mover-view';
import { wobble } from './WobblePanel';

const MOVER_VIEWS = { wobble, envelope } satisfies { [K in MoverKind]: MoverView<K> };

/** What a mover's kind brings to the pages. */
export const viewOf = (mover: Mover) => MOVER_VIEWS[mover.kind] as MoverView<MoverKind>;
