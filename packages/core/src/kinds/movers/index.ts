import { variant, type Infer } from '../../schema/schema.js';
import { envelope } from './envelope.js';
import { follower } from './follower.js';
import type { MoverKindSpec, MoverShape } from './mover-kind.js';
import { noise } from './noise.js';
import { accent, chance, key, touch } from './of-note.js';
import { steps } from './steps.js';
import { wobble } from './wobble.js';

/** The kinds of mover, told apart by `kind`. */
const MOVER_KINDS = { wobble, envelope, steps, follower, noise, touch, key, accent, chance };

type Kinds = typeof MOVER_KINDS;
const shapes = Object.fromEntries(Object.entries(MOVER_KINDS).map(([kind, { shape }]) => [kind, shape])) as {
  [K in keyof Kinds]: Kinds[K]['shape'];
};

export const moverShape = variant(shapes);

export type Mover = Infer<typeof moverShape>;
export type MoverKind = Mover['kind'];
export type MoverOf<K extends MoverKind> = Extract<Mover, { kind: K }>;
export * from './mover-kind.js';
export {
  CONTROL_WAYS,
  MACRO_IDS,
  MacroRunner,
  macroShape,
  type ControlBinding,
  type Macro,
  type MacroSwitch,
} from './macro.js';
export { checkCycle, cycleShape, wobbleHz, type Cycle, type ShapeNode } from './wobble.js';

/** What a kind of mover brings. */
export const moverKindOf = (kind: MoverKind) =>
  MOVER_KINDS[kind] as unknown as MoverKindSpec<MoverShape, Mover>;
