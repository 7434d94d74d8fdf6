import type { Layer, SoundDocument } from '../../document/index.js';
import { plain, signed } from '../../units/index.js';
import { cleanLink, cleanMover, MOST_LINKS, MOST_MOVERS } from '../../document/index.js';
import { tidy, withLayer } from '../base/edits.js';
import type { MendKind, Way } from '../base/way.js';

/** Most that a layer's level follows the keys over its range, in % of that; either way round. */
const MOST_REACH_PCT = 25;

const filters = ({ filters: each }: Layer) => each.filter(({ on, mode }) => on && mode !== 'high');

/** The filters of a layer that follow the keys, wholly at amount 1. */
const following = (sound: SoundDocument, { id, name }: Layer): Way => ({
  id: `follow-${id}`,
  title: (amount) => `Let ${name}’s filter follow the keys by ${plain(100 * amount, 0)} %`,
  apply: (amount) =>
    withLayer(sound, id, (layer) => ({
      ...layer,
      filters: layer.filters.map((filter) =>
        filter.on && filter.mode !== 'high'
          ? { ...filter, followPct: tidy(filter.followPct + (100 - filter.followPct) * amount, 0) }
          : filter,
      ),
    })),
});

/** The level of a layer that follows the keys: each pitch is made as loud as the others. */
const levelled = (sound: SoundDocument, { id, name }: Layer, sign: 1 | -1): Way => ({
  id: `level-${id}-${sign > 0 ? 'up' : 'down'}`,
  title: (amount) =>
    `Let ${name}’s level follow the keys by ${signed(sign * MOST_REACH_PCT * amount)} % of its range`,
  apply: (amount) =>
    amount === 0
      ? sound
      : {
          ...sound,
          movers: [...sound.movers, cleanMover('key', { id: 'key-level', name: 'Level by key' })],
          links: [
            ...sound.links,
            cleanLink({
              id: 'level-by-key',
              mover: 'key-level',
              target: `layers.${id}.levelDb`,
              reachPct: tidy(sign * MOST_REACH_PCT * amount),
              way: 'both ways',
            }),
          ],
        },
});

/** Makes the lows of all notes alike. */
export const even: MendKind = {
  figures: ['evenness'],
  ways: ({ document }) => {
    const layers = document.layers.filter(({ on, role }) => on && role !== 'knock');
    const subs = layers.filter(({ role }) => role === 'sub');
    const room =
      document.movers.length < MOST_MOVERS &&
      document.links.length < MOST_LINKS &&
      !document.movers.some(({ id }) => id === 'key-level');
    return [
      ...layers.filter((layer) => filters(layer).length > 0).map((layer) => following(document, layer)),
      ...(room ? subs.flatMap((layer) => [levelled(document, layer, 1), levelled(document, layer, -1)]) : []),
    ];
  },
  against: () =>
    'The lows differ by more than keys explain: notes of different lengths, velocities or glides do. Even those out in Line, or allow a greater spread.',
};
