/**
 * What a voice tells its parts at the end of a control step: places in a `Float64Array`. Numbers travel this way since the JavaScript
 * engine puts every such argument of a call that it does not inline on the heap, and the block path may allocate nothing.
 */
export const CONTROL_HZ = 0;
/** Pulse width, 0 to 1. */
export const CONTROL_WIDTH = 1;
export const CONTROL_DETUNE = 2;
/** 0 to 1. */
export const CONTROL_SPREAD = 3;
export const CONTROL_CUTOFF = 4;
export const CONTROL_Q = 5;
export const CONTROL_DRIVE_DB = 6;
/** Gains of the layer on the two sides at the start and the end of the step. */
export const CONTROL_LEFT_0 = 7;
export const CONTROL_LEFT_1 = 8;
export const CONTROL_RIGHT_0 = 9;
export const CONTROL_RIGHT_1 = 10;
export const CONTROL_NUMBERS = 11;
