import { loopTicks } from '../units/index.js';

/**
 * How much of everything a sound may hold: each bound once, for the shapes and for all that asks how much is
 * left.
 */
export const MOST_BARS = 16;
export const MOST_TICKS = loopTicks(MOST_BARS);
/** Pitches of notes, as MIDI note numbers; F1 is the root of a new sound. */
export const LOWEST_NOTE = 0;
export const HIGHEST_NOTE = 96;
export const ROOT_NOTE = 29;
export const MOST_NOTES = 512;
export const MOST_LAYERS = 8;
/** Tones of a layer, filters of a layer. */
export const TONES = 3;
export const FILTERS = 2;
/** Bands of grit; units of a band's chain or of that behind the sum, of a layer's own. */
export const MOST_BANDS = 4;
export const MOST_UNITS = 8;
export const MOST_LAYER_UNITS = 4;
export const MOST_COPIES = 12;
export const MOST_HARMONICS = 384;
export const OSCILLATORS = 4;
export const MOST_CYCLE_FRAMES = 16384;
export const MOST_VOWELS = 8;
export const MOST_ZONES = 32;
export const MOST_MOVERS = 16;
export const MACROS = 8;
export const MOST_SWITCHES = 8;
export const MOST_STEPS = 16;
export const MOST_LANES = 16;
/** Points of a lane: a move by hand tells its place some sixty times a second. */
export const MOST_POINTS = 4096;
export const MOST_NODES = 32;
export const MOST_LINKS = 64;
export const MOST_BACKING = 8;
/** Systems of the user's own, points of a response (twelve an octave from 20 Hz to 20 kHz), octaves of room noise. */
export const MOST_SYSTEMS = 16;
export const MOST_RESPONSE_POINTS = 128;
export const NOISE_OCTAVES = 10;
export const MOST_TAGS = 12;
/** Characters of a tag; of a sound's name, and of its author's. */
export const LONGEST_TAG = 30;
export const LONGEST_NAME = 80;
