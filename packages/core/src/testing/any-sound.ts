import fc from 'fast-check';
import {
  circleIn,
  cleanLink,
  cleanWavKick,
  SYSTEM_IDS,
  linkTargets,
  MACRO_IDS,
  MOST_BANDS,
  MOST_LINKS,
  MOST_MOVERS,
  moverShape,
  type Mover,
  type SchemaNode,
  type SoundDocument,
  type Tone,
  soundShape,
  switchTargets,
  withUnits,
} from '../document/index.js';
import { unitKindOf } from '../kinds/units/index.js';
import { loopTicks } from '../units/index.js';

/** Any value that a node of the document's shape allows; extremes are as likely as all that lies between. */
export function anyValue(node: SchemaNode): fc.Arbitrary<unknown> {
  switch (node.kind) {
    case 'number': {
      const between = node.whole
        ? fc.integer({ min: node.min, max: node.max })
        : fc.double({ min: node.min, max: node.max, noNaN: true });
      return fc.oneof(between, fc.constantFrom(node.min, node.max, node.default));
    }
    case 'text':
      return fc.constant(node.default);
    case 'flag':
      return fc.boolean();
    case 'choice':
      return fc.constantFrom(...node.options);
    case 'literal':
      return fc.constant(node.value);
    case 'nullable':
      return fc.constant(null);
    case 'list':
      return fc.array(anyValue(node.of), {
        minLength: node.min,
        maxLength: Math.min(node.max, node.min + 5),
      });
    case 'object':
      return fc.record(
        Object.fromEntries(Object.entries(node.fields).map(([key, field]) => [key, anyValue(field)])),
      );
    case 'variant':
      return fc.oneof(...Object.values(node.cases).map(anyValue));
  }
}

/** What no single number tells of a tone: ranges that run from their lower to their upper end. */
function ordered(tone: Tone): Tone {
  const { source } = tone;
  const sorted = (a: number, b: number): [number, number] => (a < b ? [a, b] : [b, a]);
  if (source.kind === 'harmonics') {
    const [fromHz, toHz] = sorted(source.pocket.fromHz, source.pocket.toHz);
    return { ...tone, source: { ...source, pocket: { ...source.pocket, fromHz, toHz } } };
  }
  if (source.kind !== 'sample') return tone;
  // Every zone plays the one recording that the tests have.
  const zones = source.zones.map((zone) => {
    const [lowPitch, highPitch] = sorted(zone.lowPitch, zone.highPitch);
    const [lowVelocity, highVelocity] = sorted(zone.lowVelocity, zone.highVelocity);
    return { ...zone, asset: RECORDING, lowPitch, highPitch, lowVelocity, highVelocity };
  });
  return { ...tone, source: { ...source, zones } };
}

/** Hash under which sounds of `anySound` name their recording. */
export const RECORDING = 'a'.repeat(64);
export const anyAssets = new Map([
  [
    RECORDING,
    {
      sampleRateHz: 44100,
      channels: [0, 1].map((c) =>
        Float32Array.from({ length: 6000 }, (_, i) => Math.sin(0.02 * i * (1 + c)) * Math.exp(-i / 3000)),
      ),
    },
  ],
]);

/**
 * What no single number tells of grit: every unit and band has an id of its own, bands lie one above the other, and
 * units listen to whom there is.
 */
function settleGrit(sound: SoundDocument, picks: readonly number[]): void {
  const { grit, backing } = sound;
  const bands = grit.bands.slice(0, MOST_BANDS - 1);
  const froms = bands.map(({ fromHz }) => fromHz).sort((a, b) => a - b);
  const lowest = grit.cleanPath.frequencyHz;
  grit.bands = bands.map((band, b) => ({
    ...band,
    id: `band-${b}`,
    fromHz: Math.min(16000 - (bands.length - 1 - b), Math.max(lowest + 1, froms[b]) + b),
  }));
  const others = ['kick', ...backing.map(({ id }) => id)];
  let u = 0;
  Object.assign(
    sound,
    withUnits(sound, (unit) => {
      const { hears, hearsIn } = unitKindOf(unit.kind);
      const listens = hears && hearsIn && u % 2 === 0 ? { [hearsIn]: anyOf([u, ...picks], others) } : {};
      return { ...unit, ...listens, id: `unit-${u++}` };
    }),
  );
}

/** A few of something, and now and then as many as there may be. */
const fewOrAll = <T>(of: fc.Arbitrary<T>, most: number) =>
  fc.oneof(
    { weight: 15, arbitrary: fc.array(of, { maxLength: 8 }) },
    { weight: 1, arbitrary: fc.array(of, { minLength: most, maxLength: most }) },
  );

const anyOf = <T>(picks: readonly number[], of: readonly T[]): T =>
  of[(picks.length + (picks[0] ?? 0)) % of.length];

/** Links between any movers and anything that they may reach, but in no circle; lanes and what macros switch. */
function linkUp(sound: SoundDocument, picks: readonly number[]): void {
  const sources = [...sound.movers.map(({ id }) => id), ...MACRO_IDS];
  sound.links = [];
  const own = linkTargets(sound).map(({ target }) => target);
  picks.forEach((pick, i) => {
    // Reaches of links that are there by now are among the targets.
    const targets = [...own, ...sound.links.map(({ id }) => `links.${id}.reachPct`)];
    const link = cleanLink({
      id: `link-${i}`,
      mover: sources[pick % sources.length],
      target: targets[Math.floor(pick / 7) % targets.length],
      reachPct: (pick % 201) - 100,
      fromPct: pick % 5 === 0 ? (pick % 151) - 75 : 0,
      way: pick % 3 === 0 ? 'both ways' : 'one way',
      bend: ((pick % 21) - 10) / 10,
      sides: pick % 4 === 0 ? 'opposed' : 'alike',
      on: pick % 11 !== 0,
    });
    sound.links.push(link);
    if (circleIn(sound)) sound.links.pop();
  });
  const movable = linkTargets(sound).filter(({ target }) => !target.startsWith('links.'));
  sound.lanes = sound.lanes.map((lane, i) => ({
    ...lane,
    target: movable[(7 * i + picks.length) % movable.length].target,
    points: lane.points.sort((a, b) => a.tick - b.tick),
  }));
  sound.lanes = sound.lanes.filter(
    ({ target }, i, all) => all.findIndex((lane) => lane.target === target) === i,
  );
  const switched = switchTargets(sound);
  sound.macros = sound.macros.map((macro) => ({
    ...macro,
    switches: macro.switches.map((each, i) => ({
      ...each,
      target: switched[(i + picks.length) % switched.length].target,
    })),
  }));
}

/**
 * Any valid sound of a loop short enough for a test: every number anywhere within its bounds, links to
 * anything that may be reached.
 */
export const anySound: fc.Arbitrary<SoundDocument> = fc
  .tuple(anyValue(soundShape), fewOrAll(fc.nat(), MOST_LINKS), fewOrAll(anyValue(moverShape), MOST_MOVERS))
  .map(([value, picks, movers]) => {
    const sound = value as SoundDocument;
    sound.movers = movers as Mover[];
    sound.ground.bars = 1;
    sound.ground.tempoBpm = Math.max(150, sound.ground.tempoBpm);
    const end = loopTicks(1);
    sound.layers = sound.layers
      .slice(0, 3)
      .map((layer, i) => ({ ...layer, id: `layer-${i}`, tones: layer.tones.map(ordered) }));
    sound.movers = sound.movers.map((mover, i) => ({ ...mover, id: `mover-${i}` }));
    for (const mover of sound.movers) {
      if (mover.kind !== 'wobble') continue;
      mover.nodes.sort((a, b) => a.x - b.x);
      mover.nodes[0].x = 0;
      mover.nodes[mover.nodes.length - 1].x = 1;
    }
    sound.line.notes = sound.line.notes.map((note) => {
      const tick = note.tick % (end - 1);
      const wobbleBeats = note.velocity % 3 === 0 ? note.velocity / 64 : null;
      return { ...note, tick, ticks: Math.min(note.ticks, end - tick), wobbleBeats };
    });
    const { made } = sound.kick;
    sound.backing = sound.backing
      .slice(0, 2)
      .map((part, i) => ({ ...part, id: `part-${i}`, asset: RECORDING, startTick: part.startTick % end }));
    for (const mover of sound.movers) {
      if (mover.kind === 'envelope')
        mover.startedBy = anyOf(picks, ['note', 'kick', ...sound.backing.map(({ id }) => id)]);
      if (mover.kind === 'follower')
        mover.of = anyOf(picks, ['self', 'kick', ...sound.backing.map(({ id }) => id)]);
    }
    settleGrit(sound, picks);
    linkUp(sound, picks);
    // By level it follows a part where there is one.
    sound.duck = {
      ...sound.duck,
      from: sound.duck.by === 'level' && sound.backing.length > 0 ? 'part-0' : 'kick',
    };
    sound.lock = {
      ...sound.lock,
      turns: sound.lock.turns.filter(
        ({ pitch }, i, all) => all.findIndex((other) => other.pitch === pitch) === i,
      ),
    };
    sound.systems = {
      leftOut: SYSTEM_IDS.filter((_, i) => (sound.seed >> i) % 2 === 1),
      own: sound.systems.own.slice(0, 2).map((system, i) => ({
        ...system,
        id: `own-${i}`,
        // Points rise.
        response: [20, 20000].map((hz, k) => ({ hz, levelDb: system.response[k].levelDb })),
      })),
    };
    const wav =
      sound.seed % 3 === 0
        ? { ...cleanWavKick(RECORDING, 'k.wav'), retuneSt: (sound.seed % 49) - 24, startMs: sound.seed % 40 }
        : null;
    sound.kick = {
      ...sound.kick,
      source: wav ? 'wav' : 'made',
      wav,
      made: { ...made, clickWav: made.click === 'sample' ? { asset: RECORDING, fileName: 'c.wav' } : null },
      hits: sound.kick.hits.map((hit) => ({ ...hit, tick: hit.tick % end })),
    };
    return sound;
  });
