import { cleanUnit, type SoundDocument } from '../../document/index.js';
import { trenchGrowl } from '../../demo/index.js';
import { worst } from '../../testing/bare.js';
import type { ChainCache } from './kept-chains.js';
import type { LoopRender } from './loop-render.js';
import { renderLoop } from './render-loop.js';

const OPTIONS = { sampleRateHz: 24000, stems: 'none' as const };
const ALL = ['band band-1 0', 'band band-2 0', 'band band-3 0', 'after 0'];

/** A growl of three bands and a chain behind their sum, without the links into its units, which go with every chain. */
function growl(): SoundDocument {
  const sound = trenchGrowl();
  return { ...sound, links: sound.links.filter(({ target }) => !target.startsWith('units.')) };
}

/** The greatest difference between two loops. */
const apart = (a: LoopRender, b: LoopRender) =>
  Math.max(worst(a.all.left, b.all.left), worst(a.all.right, b.all.right));

/** The names of the chains that stand as they were after a change, which is heard as it is from nothing. */
function keptAfter(change: (sound: SoundDocument) => void, sound = growl()): string[] {
  const chains: ChainCache = new Map();
  renderLoop(sound, { ...OPTIONS, chains });
  const before = new Map(chains);
  const changed = structuredClone(sound);
  change(changed);
  const served = renderLoop(changed, { ...OPTIONS, chains });
  expect(apart(served, renderLoop(changed, OPTIONS))).toBe(0);
  return ALL.filter((name) => chains.get(name) === before.get(name));
}

describe('chains of grit that were rendered before', () => {
  it('make the loop that is made without them, to the bit', () => {
    const chains: ChainCache = new Map();
    const first = renderLoop(trenchGrowl(), { ...OPTIONS, chains });
    const again = renderLoop(trenchGrowl(), { ...OPTIONS, chains });
    const without = renderLoop(trenchGrowl(), OPTIONS);
    expect([...chains.keys()]).toEqual(ALL);
    expect([apart(first, without), apart(again, without)]).toEqual([0, 0]);
  });

  it('are played back, not run again: what is kept is what is heard', () => {
    const chains: ChainCache = new Map();
    const { bass } = renderLoop(growl(), { ...OPTIONS, chains });
    for (const side of chains.get('after 0')!.sides) side.fill(0);
    expect(Math.max(...bass.left)).toBeGreaterThan(0.1);
    expect(Math.max(...renderLoop(growl(), { ...OPTIONS, chains }).bass.left.map(Math.abs))).toBe(0);
  });

  it.each<[string, string[], (sound: SoundDocument) => void]>([
    ['nothing', ALL, () => undefined],
    ['the level of all', ALL, (s) => void (s.output.levelDb -= 3)],
    ['the kick', ALL, (s) => void (s.kick.made.driveDb += 3)],
    ['the ducking', ALL, (s) => void (s.duck.amountDb += 3)],
    ['a unit behind the sum', ALL.slice(0, 3), (s) => void (s.grit.after[0].levelDb -= 1)],
    ['a unit of the second band', [ALL[0], ALL[2]], (s) => void (s.grit.bands[1].units[0].levelDb -= 1)],
    ['the level of the second band', ALL.slice(0, 3), (s) => void (s.grit.bands[1].levelDb -= 1)],
    [
      'one more unit',
      [ALL[1], ALL[2]],
      (s) => void s.grit.bands[0].units.push(cleanUnit('tilt', { id: 'tilt-9' })),
    ],
    ['where a band begins', [], (s) => void (s.grit.bands[1].fromHz *= 1.1)],
    ['a layer', [], (s) => void (s.layers[0].levelDb -= 1)],
    ['a note', [], (s) => void (s.line.notes[0].pitch += 1)],
  ])('stay where %s changed: %j', (_what, kept, change) => {
    expect(keptAfter(change)).toEqual(kept);
  });

  it.each<[string, (sound: SoundDocument) => void]>([
    [
      'a link into a unit',
      (s) => void (s.links.find(({ target }) => target.startsWith('units.'))!.reachPct /= 2),
    ],
    ['a mover of a unit', (s) => void Object.assign(s.movers[0], { amountPct: 60 })],
    ['a macro that moves a unit', (s) => void (s.macros[1].valuePct += 30)],
    ['a lane of a unit', (s) => void (s.lanes[0].points[1].value = 0.9)],
    ['the feedback of all', (s) => void (s.feedback.amountPct += 20)],
    ['the tempo', (s) => void (s.ground.tempoBpm += 2)],
    ['the seed', (s) => void (s.seed += 1)],
  ])('are all run again where %s changed', (_what, change) => {
    const sound = trenchGrowl();
    sound.feedback = { ...sound.feedback, on: true, amountPct: 40 };
    sound.lanes.push({
      target: 'units.tube-1.driveDb',
      on: true,
      points: [0, 960].map((tick) => ({ tick, value: tick === 0 ? 0.2 : 0.5, bend: 0, hold: false })),
    });
    expect(keptAfter(change, sound)).toEqual([]);
  });

  it('are run again where the kick changed that a unit of theirs hears', () => {
    const sound = growl();
    sound.grit.bands[0].units.push(cleanUnit('compressor', { id: 'pump-1', listensTo: 'kick' }));
    expect(keptAfter((s) => void (s.kick.made.driveDb += 3), sound)).toEqual([ALL[1], ALL[2]]);
  });

  it('of several passes are kept beside each other', () => {
    const chains: ChainCache = new Map();
    renderLoop(growl(), { ...OPTIONS, chains });
    renderLoop(growl(), { ...OPTIONS, pass: 1, chains });
    expect(chains.size).toBe(2 * ALL.length);
  });
});
