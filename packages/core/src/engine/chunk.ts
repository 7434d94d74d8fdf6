/** Frames in a control step: parameters and envelopes are computed once a step and run evenly through it. */
export const CHUNK = 16;
