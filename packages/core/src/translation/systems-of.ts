import type { OwnSystem, SoundDocument } from '../document/index.js';
import { SYSTEMS, type PlaybackSystem } from './systems.js';

/** Where a system with mono lows is mono, as the club stack. */
const MONO_LOWS_HZ = 120;
const MONO_BELOW: Readonly<Record<OwnSystem['channels'], number>> = {
  stereo: 0,
  mono: Infinity,
  'mono lows': MONO_LOWS_HZ,
};

/** A system of the user's own as the program's are. */
export const ownSystem = ({ response, channels, ...rest }: OwnSystem): PlaybackSystem => ({
  ...rest,
  response: [
    {
      kind: 'measured',
      hz: response.map(({ hz }) => hz),
      levelsDb: response.map(({ levelDb }) => levelDb),
    },
  ],
  monoBelowHz: MONO_BELOW[channels],
});

/** All systems of a sound: the program's, then the user's own. */
export const systemsOf = ({ systems }: Pick<SoundDocument, 'systems'>): PlaybackSystem[] => [
  ...SYSTEMS,
  ...systems.own.map(ownSystem),
];

/** Whether a system matters for a sound. */
export const matters = ({ systems }: Pick<SoundDocument, 'systems'>, { id }: Pick<PlaybackSystem, 'id'>) =>
  !systems.leftOut.includes(id);
