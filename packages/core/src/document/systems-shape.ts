import { MOST_RESPONSE_POINTS, MOST_SYSTEMS, NOISE_OCTAVES } from '../schema/bounds.js';
import { choice, list, number, object, text, type Infer } from '../schema/schema.js';
import { ID, log } from '../schema/shape-parts.js';
import { targetsShape } from './targets-shape.js';

/** The systems that ship with the program; what they are stands in `translation/systems.ts`. */
export const SYSTEM_IDS = ['studio', 'club', 'car', 'earbuds', 'radio', 'laptop', 'phone'] as const;
export type SystemId = (typeof SYSTEM_IDS)[number];

const pointShape = object({
  hz: number('Frequency', 'Hz', 10, 24000, 1000, 'Where the response was measured.', log),
  levelDb: number('Response', 'dB', -120, 40, 0, 'How loud it is there, against 1 kHz.', { step: 0.1 }),
});

/** A playback system of the user's own. */
export const systemShape = object({
  id: text(40, 'own-1', ID),
  name: text(80, 'My system'),
  /** Its response from the lowest frequency up, straight between the points over the logarithm of frequency. */
  response: list(pointShape, 2, MOST_RESPONSE_POINTS),
  channels: choice(['stereo', 'mono', 'mono lows'], 'stereo'),
  playsDb: number(
    'Plays at',
    'dB',
    40,
    120,
    74,
    'Level in dB SPL at the listener of 1 kHz, alike on both sides, with peaks at −18 dBFS.',
    { step: 0.5 },
  ),
  mostDb: number('At most', 'dB', 50, 140, 105, 'The greatest level that it gives, dB SPL.', { step: 0.5 }),
  noiseDb: list(
    number('Room noise', 'dB', 0, 120, 40, 'Noise of the room in an octave, dB SPL.', { step: 0.5 }),
    NOISE_OCTAVES,
    NOISE_OCTAVES,
  ),
});

/** The user's own systems, and which of all systems do not matter for a sound. */
export const systemsShape = object({
  leftOut: list(text(40, '', ID), 0, MOST_SYSTEMS),
  own: list(systemShape, 0, MOST_SYSTEMS, 'id'),
});

/** What a sound is held against, as it is kept for other sounds. */
export const targetSetShape = object({ targets: targetsShape, systems: systemsShape });

export type OwnSystem = Infer<typeof systemShape>;
export type Systems = Infer<typeof systemsShape>;
export type TargetSet = Infer<typeof targetSetShape>;
