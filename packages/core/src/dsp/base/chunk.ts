/**
 * Frames in a control step: pitch, filters, envelopes and movers are computed once a step and run evenly
 * through it.
 */
export const STEP = 16;

/**
 * Most frames in a block: what lies between two events or two marks of a fixed grid is rendered at one go,
 * four steps at most.
 */
export const BLOCK = 64;
