import type { SoundDocument } from '../../document/index.js';
import { plain } from '../../units/index.js';
import { tidy, withUnitAfter } from '../base/edits.js';
import type { MendKind, Way } from '../base/way.js';

/** Longest attack and release that are tried, ms. */
const LONGEST_MS = 40;

const longer = (sound: SoundDocument, id: string, name: string, what: 'releaseMs' | 'attackMs'): Way => {
  const word = what === 'releaseMs' ? 'release' : 'attack';
  const { loudness } = sound.layers.find((layer) => layer.id === id)!;
  const at = (amount: number) =>
    tidy(Math.max(loudness[what], loudness[what] + (LONGEST_MS - loudness[what]) * amount));
  return {
    id: `${word}-${id}`,
    title: (amount) => `${name}’s ${word} from ${plain(loudness[what])} to ${plain(at(amount))} ms`,
    apply: (amount) => ({
      ...sound,
      layers: sound.layers.map((layer) =>
        layer.id === id
          ? {
              ...layer,
              loudness: { ...layer.loudness, [what]: at(amount) },
              // One that ends at once has no release to be heard.
              voice: what === 'releaseMs' && amount > 0 ? { ...layer.voice, end: 'release' } : layer.voice,
            }
          : layer,
      ),
    }),
  };
};

/** Mends clicks: by the envelope that stops or starts too soon, of one layer or of all. */
export const declick: MendKind = {
  figures: ['clicks'],
  ways: ({ document }) => {
    const layers = document.layers.filter(({ on }) => on);
    const each = (['releaseMs', 'attackMs'] as const).flatMap((what) =>
      layers
        .filter(
          ({ loudness, voice }) =>
            loudness[what] < LONGEST_MS || (what === 'releaseMs' && voice.end !== 'release'),
        )
        .map(({ id, name }) => longer(document, id, name, what)),
    );
    const every: Way = {
      id: 'release-all',
      title: (amount) => `Every layer’s release to ${plain(5 + (LONGEST_MS - 5) * amount)} ms or more`,
      apply: (amount) =>
        amount === 0
          ? document
          : layers.reduce((sound, { id, loudness }) => {
              const releaseMs = Math.max(loudness.releaseMs, tidy(5 + (LONGEST_MS - 5) * amount));
              return {
                ...sound,
                layers: sound.layers.map((layer) =>
                  layer.id === id
                    ? {
                        ...layer,
                        loudness: { ...layer.loudness, releaseMs },
                        voice: { ...layer.voice, end: 'release' },
                      }
                    : layer,
                ),
              };
            }, document),
    };
    return [...each, ...(layers.length > 1 ? [every] : [])];
  },
  against: () =>
    'The clicks come from no envelope: look for a mover that jumps, or a unit that is switched, at the times that Sounding lists.',
};

/** Takes a constant offset away. */
export const centre: MendKind = {
  figures: ['dc'],
  ways: ({ document }) => [
    {
      id: 'high-pass',
      title: () => 'A high-pass at 20 Hz after everything',
      apply: (amount) =>
        amount === 0
          ? document
          : withUnitAfter(document, 'filter', { mode: 'high', slope: '12', cutoffHz: 20, resonancePct: 0 }),
    },
  ],
  against: () =>
    'The offset comes and goes with the notes: lower the bias of a shaper, or what makes one half of the wave larger.',
};
