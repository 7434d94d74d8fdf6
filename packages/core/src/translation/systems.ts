import type { SystemId } from '../document/index.js';

/** A part of a system's response: cutoffs and centres in hertz, gains in dB. */
export type ResponsePart =
  | { readonly kind: 'high-pass' | 'low-pass'; readonly hz: number; readonly order: number }
  | { readonly kind: 'bell'; readonly hz: number; readonly gainDb: number; readonly q: number }
  | { readonly kind: 'low shelf' | 'high shelf'; readonly hz: number; readonly gainDb: number }
  /** As it was measured: levels at frequencies that rise, straight between them over the logarithm of frequency. */
  | { readonly kind: 'measured'; readonly hz: readonly number[]; readonly levelsDb: readonly number[] };

/** A model of a kind of device, made up for this program: no make or model is measured. */
export interface PlaybackSystem {
  readonly id: string;
  readonly name: string;
  readonly response: readonly ResponsePart[];
  /** Below this it is mono, in hertz: 0 where it is stereo, Infinity where it is mono throughout. */
  readonly monoBelowHz: number;
  /** Level in dB SPL at the listener of a 1 kHz sine, alike on both sides, with peaks at −18 dBFS. */
  readonly playsDb: number;
  /** The greatest level that it gives, dB SPL. */
  readonly mostDb: number;
  /** Noise of the room in dB SPL per octave, at `OCTAVES_HZ`. */
  readonly noiseDb: readonly number[];
}

/** Centres of the octaves in which room noise is given. */
export const OCTAVES_HZ = [31.5, 63, 125, 250, 500, 1000, 2000, 4000, 8000, 16000] as const;

const STEREO = 0;
const MONO = Infinity;

const highPass = (hz: number, order: number): ResponsePart => ({ kind: 'high-pass', hz, order });
const lowPass = (hz: number, order: number): ResponsePart => ({ kind: 'low-pass', hz, order });
const bell = (hz: number, gainDb: number, q: number): ResponsePart => ({ kind: 'bell', hz, gainDb, q });
const lowShelf = (hz: number, gainDb: number): ResponsePart => ({ kind: 'low shelf', hz, gainDb });
const highShelf = (hz: number, gainDb: number): ResponsePart => ({ kind: 'high shelf', hz, gainDb });

/** The systems that ship with the program, the largest first; their numbers are the design's. */
export const SYSTEMS: readonly (PlaybackSystem & { readonly id: SystemId })[] = [
  {
    id: 'studio',
    name: 'Studio, full range',
    response: [highPass(32, 4)],
    monoBelowHz: STEREO,
    playsDb: 80,
    mostDb: 108,
    noiseDb: [57, 48, 40, 33, 26, 22, 19, 17, 16, 15],
  },
  {
    id: 'club',
    name: 'Club stack',
    response: [highPass(30, 4), lowShelf(80, 9)],
    monoBelowHz: 120,
    playsDb: 98,
    mostDb: 125,
    noiseDb: [80, 80, 80, 82, 84, 83, 79, 74, 67, 60],
  },
  {
    id: 'car',
    name: 'Car',
    response: [highPass(35, 2), lowShelf(70, 5), bell(150, -4, 1.5), highShelf(5000, -3)],
    monoBelowHz: STEREO,
    playsDb: 80,
    mostDb: 108,
    noiseDb: [80, 74, 66, 60, 56, 53, 47, 40, 33, 26],
  },
  {
    id: 'earbuds',
    name: 'Earbuds',
    response: [highPass(50, 1), bell(2700, 4, 1.2)],
    monoBelowHz: STEREO,
    playsDb: 74,
    mostDb: 105,
    noiseDb: [62, 60, 56, 52, 48, 43, 37, 30, 24, 20],
  },
  {
    id: 'radio',
    name: 'Kitchen radio',
    response: [highPass(105, 4), bell(130, 2, 1.5), lowPass(11000, 2)],
    monoBelowHz: MONO,
    playsDb: 70,
    mostDb: 92,
    noiseDb: [54, 50, 46, 44, 42, 40, 37, 34, 30, 26],
  },
  {
    id: 'laptop',
    name: 'Laptop',
    response: [highPass(210, 4), bell(900, 3, 1), lowPass(15000, 2)],
    monoBelowHz: STEREO,
    playsDb: 68,
    mostDb: 84,
    noiseDb: [58, 54, 49, 44, 40, 37, 34, 31, 28, 25],
  },
  {
    id: 'phone',
    name: 'Small phone',
    response: [highPass(480, 4), bell(2500, 5, 1), lowPass(12000, 2)],
    monoBelowHz: MONO,
    playsDb: 66,
    mostDb: 82,
    noiseDb: [56, 52, 48, 45, 42, 40, 37, 34, 30, 26],
  },
];
