import fc from 'fast-check';
import {
  cleanNote,
  cleanSound,
  cleanSource,
  cleanTone,
  findProblems,
  soundShape,
  type SchemaNode,
  type SoundDocument,
} from '../../document/index.js';
import { anyAssets, anySound, anyValue } from '../../testing/any-sound.js';
import { eventList } from './events.js';
import { Instrument } from './instrument.js';
import { eventKey, structureOf } from './rebuild-keys.js';
import type { ChainCache } from './kept-chains.js';
import type { LayerCache } from './loop-render.js';
import { renderLoop } from './render-loop.js';

type Path = readonly (string | number)[];
interface Leaf {
  readonly path: Path;
  readonly node: SchemaNode;
}

/** Every single value of a document that can be changed by itself. */
function leaves(node: SchemaNode, value: unknown, path: Path): Leaf[] {
  switch (node.kind) {
    case 'number':
    case 'flag':
    case 'choice':
      return [{ path, node }];
    case 'object':
      return Object.entries(node.fields).flatMap(([key, field]) =>
        leaves(field, (value as Record<string, unknown>)[key], [...path, key]),
      );
    case 'list':
      return (value as unknown[]).flatMap((entry, i) => leaves(node.of, entry, [...path, i]));
    case 'variant':
      return [...leaves(node.cases[(value as { kind: string }).kind], value, path), { path, node }];
    case 'nullable':
      return value === null ? [] : leaves(node.of, value, path);
    default:
      return [];
  }
}

const away = (a: unknown, b: unknown) => Math.abs((a as number) - (b as number));

function changed(sound: SoundDocument, { path, node }: Leaf, pick: number): SoundDocument {
  const copy = structuredClone(sound);
  const at = path
    .slice(0, -1)
    .reduce<unknown>((inner, key) => (inner as Record<string, unknown>)[key as string], copy) as Record<
    string,
    unknown
  >;
  const field = path[path.length - 1] as string;
  const before = at[field];
  const values = fc.sample(anyValue(node), { numRuns: 20, seed: pick });
  // Of a number one that is heard to differ; of all else the first that does.
  at[field] =
    node.kind === 'number'
      ? values.reduce((far, value) => (away(value, before) > away(far, before) ? value : far))
      : values.find((value) => JSON.stringify(value) !== JSON.stringify(before));
  return copy;
}

/**
 * A short sound of which something is heard, and where one oscillator carries both in every second: without that,
 * hardly any would show what a change does.
 */
function heard(sound: SoundDocument): SoundDocument {
  const [first, ...others] = sound.layers;
  return {
    ...sound,
    ground: { ...sound.ground, bars: 1, tempoBpm: Math.max(120, sound.ground.tempoBpm) },
    kick: {
      ...sound.kick,
      on: sound.kick.on || sound.kick.shared,
      hits: [
        { tick: 0, velocity: 100 },
        { tick: 600, velocity: 100 },
        { tick: 960, velocity: 100 },
      ],
    },
    layers: [
      {
        ...first,
        on: true,
        levelDb: 0,
        tones: [
          cleanTone({ ...first.tones[0], on: true, levelDb: 0, source: cleanSource('shape') }),
          ...first.tones.slice(1),
        ],
        loudness: { ...first.loudness, delayMs: 0, attackMs: 5 },
      },
      ...others,
    ],
    line: {
      notes: [
        cleanNote({ tick: 240, ticks: 600 }),
        ...sound.line.notes.filter(({ tick, ticks }) => tick + ticks <= 1920).slice(0, 2),
      ],
    },
    output: { ...sound.output, levelDb: 0, ceilingDb: 0 },
    duck: { ...sound.duck, amountDb: Math.min(6, sound.duck.amountDb) },
  };
}

/** Where a value stands, without places in lists. */
const nameOf = ({ path }: Leaf) => path.filter((key) => typeof key === 'string').join('.');

/**
 * A sound, and the same with one value of it changed, both valid; `only` names the values that are tried,
 * every kind alike, half of the times one that matches `rather`.
 */
const anyEdit = (only: (leaf: Leaf) => boolean, rather = /./) =>
  fc
    .tuple(anySound.map(heard), fc.nat(), fc.nat())
    .map(([sound, which, pick]) => {
      const all = leaves(soundShape, sound, []).filter(only);
      const names = [...new Set(all.map(nameOf))].filter((name) => pick % 2 === 0 || rather.test(name));
      const alike = all.filter((each) => nameOf(each) === names[which % names.length]);
      const leaf = alike[pick % alike.length];
      return { sound, leaf, after: changed(sound, leaf, pick) };
    })
    .filter(({ after }) => findProblems(after).length === 0);

const everything = () => true;

describe('a change of one value', () => {
  it('gives other events only where the key of the events says so', () => {
    fc.assert(
      fc.property(
        anyEdit(
          everything,
          /^(kick|duck|backing|line|lock)|^layers\.(on|role|tones\.(on|octave|semitones|pitchIn)$)/,
        ),
        ({ sound, after }) => {
          if (eventKey(sound) === eventKey(after))
            expect(eventList(after, 48000)).toEqual(eventList(sound, 48000));
        },
      ),
      { numRuns: 800, seed: 12, endOnFailure: true },
    );
  });

  // Sounds drawn at random would hardly ever meet a value that stands once in a document.
  it.each([false, true])(
    'of each that is no layer’s own gives the same render from layers kept as from none, one oscillator: %s',
    (shared) => {
      const clean = heard(cleanSound());
      const [body] = clean.layers;
      // A layer in which all that it can depend on counts: chance, tuning, hits of the kick.
      const tones = [cleanTone({ ...body.tones[0], driftCents: 20 }), ...body.tones.slice(1)];
      const layer = { ...body, tones, voice: { ...body.voice, restart: 'note and kick' as const } };
      const sound = {
        ...clean,
        layers: [layer],
        lock: { ...clean.lock, turns: [{ pitch: 29, turnDeg: 40 }] },
        kick: { ...clean.kick, on: true, shared },
      };
      const own = leaves(soundShape, sound, []).filter(
        ({ path }) => !['layers', 'links', 'movers', 'targets'].includes(String(path[0])),
      );
      const seen = own.filter((leaf, pick) => {
        const after = changed(sound, leaf, pick);
        if (findProblems(after).length > 0) return false;
        const keeps = sameFromKept(sound, after);
        expect([leaf.path.join('.'), keeps]).toEqual([leaf.path.join('.'), true]);
        return true;
      });
      expect(seen.length).toBeGreaterThan(0.8 * own.length);
    },
  );

  it('gives the same render from layers kept before as from none', () => {
    fc.assert(
      fc.property(
        anyEdit(everything, /^(ground|lock|line)|^kick\.(on|shared|hits|swing)|^layers\.role/),
        ({ sound, after }) => {
          expect(sameFromKept(sound, after)).toBe(true);
        },
      ),
      { numRuns: 36, seed: 23, endOnFailure: true },
    );
  });

  it('of what is no number is taken up by an instrument that goes on as by one that is built', () => {
    fc.assert(
      fc.property(
        anyEdit(({ node }) => node.kind !== 'number'),
        ({ sound, leaf, after }) => {
          if (structureOf(sound) !== structureOf(after)) return;
          const options = {
            sampleRateHz: 8000,
            seed: 0,
            assets: anyAssets,
            stems: 'none' as const,
            frozen: new Map(),
          };
          const goesOn = new Instrument(sound, options);
          goesOn.set(after);
          const built = new Instrument(after, options);
          expect([leaf.path.join('.'), differsDb(played(goesOn), played(built)) < -40]).toEqual([
            leaf.path.join('.'),
            true,
          ]);
        },
      ),
      { numRuns: 140, seed: 14, endOnFailure: true },
    );
  });
});

/** Whether a sound renders the same from what was kept of another one as from nothing. */
function sameFromKept(sound: SoundDocument, after: SoundDocument): boolean {
  const cache: LayerCache = new Map();
  const chains: ChainCache = new Map();
  const options = { sampleRateHz: 8000, assets: anyAssets, stems: 'none' as const };
  renderLoop(sound, { ...options, cache, chains });
  const kept = renderLoop(after, { ...options, cache, chains });
  const fresh = renderLoop(after, options);
  return (['left', 'right'] as const).every((side) => differsDb(kept.all[side], fresh.all[side]) < -50);
}

/** What an instrument plays of one note, once its numbers stand where they are to go. */
function played(instrument: Instrument): Float64Array {
  const { mix } = instrument.assembly;
  const out = new Float64Array(64 * 60);
  for (let block = 0; block < 10; block++) instrument.render(64, -1);
  instrument.noteOn(1, 40, 100, false);
  instrument.assembly.kick.hit(100);
  for (let block = 0; block < 60; block++) {
    instrument.render(64, -1);
    for (let i = 0; i < 64; i++) out[64 * block + i] = mix.bassLeft[i] + mix.kickLeft[i];
  }
  return out;
}

/** Level of the difference against the louder of the two, dB. */
function differsDb(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let difference = 0;
  let level = 0;
  for (let i = 0; i < a.length; i++) {
    difference += (a[i] - b[i]) ** 2;
    level += Math.max(a[i] ** 2, b[i] ** 2);
  }
  return difference < 1e-12 ? -Infinity : 10 * Math.log10(difference / level);
}
