import { object } from '../schema/schema.js';
import { segments } from '../schema/shape-parts.js';
import { moverFields, type MoverKindSpec } from './mover-kind.js';

/** An envelope that runs with each note. */
export const envelope = {
  shape: object({ ...moverFields('envelope', 'envelope-1', 'Snap'), ...segments(1, 120, 0, 60) }),
} satisfies MoverKindSpec;
