import { parameter, trenchGrowl, type SoundDocument } from '@abyssal/core';
import { carriedBy } from './moving';

const CUTOFF = 'layers.body.filters.0.cutoffHz';
const PAN = 'layers.body.panPct';
const row = parameter('layers.*.filters.*.cutoffHz');
const carried = (change: (sound: SoundDocument) => void = () => undefined) => {
  const sound = structuredClone(trenchGrowl());
  change(sound);
  return carriedBy(sound, CUTOFF, row, sound.layers[1].filters[0].cutoffHz);
};
/** Where 150 Hz stands between 20 Hz and 20 kHz. */
const AT = Math.log(7.5) / Math.log(1000);

describe('how far a number is carried', () => {
  it('is the sum of what its links reach', () => {
    const { links, lane, range } = carried();
    expect(links.map(({ id }) => id)).toEqual(['link-1', 'link-4', 'link-6']);
    expect(lane).toBe(false);
    expect(range![0]).toBeCloseTo(AT, 9);
    expect(range![1]).toBeCloseTo(AT + 0.44 + 0.12 + 0.22, 9);
  });

  it('leaves out links and movers that are off, and is none without any', () => {
    const { range } = carried((sound) => {
      sound.movers[0].on = false;
      sound.links.find(({ id }) => id === 'link-6')!.on = false;
    });
    expect(range![1]).toBeCloseTo(AT + 0.12, 9);
    expect(
      carried((sound) => {
        sound.links = [];
      }),
    ).toEqual({ links: [], lane: false, range: null });
  });

  it('goes both ways where links do, or reach down', () => {
    const { range } = carried((sound) => {
      sound.links = [
        { ...sound.links[0], reachPct: 20, way: 'both ways' },
        { ...sound.links[1], target: CUTOFF, reachPct: -5 },
      ];
    });
    expect(range![0]).toBeCloseTo(AT - 0.25, 9);
    expect(range![1]).toBeCloseTo(AT + 0.2, 9);
  });

  it('begins from where a lane takes it', () => {
    const sound = structuredClone(trenchGrowl());
    const point = { bend: 0, hold: false };
    sound.lanes = [
      {
        target: PAN,
        on: true,
        points: [
          { ...point, tick: 0, value: 0.2 },
          { ...point, tick: 960, value: 0.9 },
        ],
      },
    ];
    expect(carriedBy(sound, PAN, parameter('layers.*.panPct'), 0)).toEqual({
      links: [],
      lane: true,
      range: [0.2, 0.9],
    });
  });
});
