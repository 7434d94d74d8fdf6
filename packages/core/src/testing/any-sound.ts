import fc from 'fast-check';
import {
  cleanWavKick,
  linkTargets,
  type SchemaNode,
  type SoundDocument,
  type Tone,
  soundShape,
} from '../document/index.js';
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
 * Any valid sound of a loop short enough for a test: every number anywhere within its bounds, links to
 * anything that may be reached.
 */
export const anySound: fc.Arbitrary<SoundDocument> = fc
  .tuple(anyValue(soundShape), fc.array(fc.nat(), { maxLength: 8 }))
  .map(([value, picks]) => {
    const sound = value as SoundDocument;
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
    const targets = linkTargets(sound);
    sound.links =
      sound.movers.length === 0
        ? []
        : picks.map((pick, i) => ({
            id: `link-${i}`,
            mover: sound.movers[pick % sound.movers.length].id,
            target: targets[pick % targets.length].target,
            reachPct: (pick % 201) - 100,
            on: true,
          }));
    sound.line.notes = sound.line.notes.map((note) => {
      const tick = note.tick % (end - 1);
      return { ...note, tick, ticks: Math.min(note.ticks, end - tick) };
    });
    const { made } = sound.kick;
    sound.backing = sound.backing
      .slice(0, 2)
      .map((part, i) => ({ ...part, id: `part-${i}`, asset: RECORDING, startTick: part.startTick % end }));
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
