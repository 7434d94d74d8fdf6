/**
 * What is made anew when a value changes while a sound plays: the list of events; the instrument, for what
 * cannot change while it sounds; the render of every layer, beside what
 * is the layer's own. What one oscillator for both carries, and how long hard ducking holds, depend on the
 * kick only while they are on.
 */
export type Rebuild = 'events' | 'instrument' | 'layers' | 'carried' | 'hard hold';

/** A mark on a node; `as` says what of the value counts, where not all of it does. */
export interface Mark {
  readonly what: Rebuild;
  readonly as?: (value: never) => unknown;
}
