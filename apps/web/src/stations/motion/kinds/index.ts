import type { Mover, MoverKind } from '@abyssal/core';
import { envelope } from './EnvelopePanel';
import { follower } from './FollowerPanel';
import type { MoverView } from './mover-view';
import { noise } from './NoisePanel';
import { accent, chance, key, touch } from './NotePanels';
import { steps } from './StepsPanel';
import { wobble } from './WobblePanel';

/** In the order in which they are offered. */
export const MOVER_VIEWS = {
  wobble,
  envelope,
  steps,
  follower,
  noise,
  touch,
  key,
  accent,
  chance,
} satisfies {
  [K in MoverKind]: MoverView<K>;
};

/** What a mover's kind brings to the pages. */
export const viewOf = (mover: Mover) => MOVER_VIEWS[mover.kind] as unknown as MoverView<MoverKind>;
