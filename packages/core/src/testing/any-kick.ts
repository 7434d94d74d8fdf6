import { cleanNote, cleanSound, cleanWavKick, type SoundDocument } from '../document/index.js';
import { Random } from '../dsp/index.js';
import type { Assets } from '../engine/index.js';

/** Lines under which kicks are tried. */
export const LINES = ['held', 'short', 'rolling', 'gliding', 'two pitches'] as const;
export type LineKind = (typeof LINES)[number];

export const KICKS = 80;
const RATE = 48000;
const HASH = 'b'.repeat(64);
const BEAT = 480;
const F1 = 29;

/** A kick as it was drawn. */
export interface AnyKick {
  readonly name: string;
  readonly tailHz: number;
  readonly recording: boolean;
  readonly dress: (sound: SoundDocument) => SoundDocument;
  readonly assets: Assets;
}

/**
 * Kick `index` of 80 whose tails lie from E1 to C2, half of them recordings and half made here: seeded, so
 * that a number always names the same one.
 */
export function anyKick(index: number): AnyKick {
  const random = new Random(7919, index);
  const between = (from: number, to: number) => from + (to - from) * random.next();
  const tailHz = 41.203 * 2 ** ((8 * ((index + random.next()) / KICKS)) / 12);
  const recording = index % 2 === 0;
  const [dropMs, from, tauMs, click] = [between(8, 60), between(2, 7), between(50, 220), between(0, 0.4)];
  const [flipped, stereo, dc] = [random.next() < 0.3, random.next() < 0.3, random.next() < 0.2 ? 0.05 : 0];
  const levelDb = between(-8, -2);
  const name = `${index}: ${recording ? 'WAV' : 'made'}, tail ${tailHz.toFixed(1)} Hz, drop ${dropMs.toFixed(0)} ms from ${from.toFixed(1)}x, decay ${tauMs.toFixed(0)} ms${flipped ? ', flipped' : ''}${stereo ? ', stereo' : ''}${dc ? ', DC' : ''}`;
  if (!recording) {
    const holdMs = between(20, 70);
    const startDeg = between(-180, 180);
    return {
      name,
      tailHz,
      recording,
      assets: new Map(),
      dress: (sound) => ({
        ...sound,
        kick: {
          ...sound.kick,
          source: 'made',
          levelDb,
          made: {
            ...sound.kick.made,
            tailHz: Number(tailHz.toFixed(3)),
            startHz: Math.round(Math.min(2000, tailHz * from)),
            dropMs: Math.round(dropMs),
            holdMs: Math.round(holdMs),
            decayMs: Math.round(2.5 * tauMs),
            decayBend: -0.4,
            startDeg: Math.round(flipped ? startDeg + (startDeg > 0 ? -180 : 180) : startDeg),
            clickDb: click > 0.05 ? -20 : -60,
          },
        },
      }),
    };
  }
  const seconds = Math.min(1.2, 0.15 + (5 * tauMs) / 1000);
  let phase = random.next();
  const noise = Float32Array.from({ length: 480 }, () => 2 * random.next() - 1);
  const samples = Float32Array.from({ length: Math.round(seconds * RATE) }, (_, i) => {
    const t = i / RATE;
    phase += (tailHz * from ** Math.exp((-1000 * t) / dropMs)) / RATE;
    const body =
      0.8 * Math.sin(2 * Math.PI * phase) * Math.exp((-1000 * t) / tauMs) +
      (i < 480 ? 0.3 * click * noise[i] * (1 - i / 480) : 0);
    return (flipped ? -1 : 1) * body * Math.min(1, i / 24, (seconds - t) / 0.03) + dc;
  });
  const channels = stereo
    ? [samples, samples.map((x, i) => 0.8 * x + (i < 480 ? 0.1 * click * noise[479 - i] : 0))]
    : [samples];
  return {
    name,
    tailHz,
    recording,
    assets: new Map([[HASH, { sampleRateHz: RATE, channels }]]),
    dress: (sound) => ({
      ...sound,
      kick: { ...sound.kick, source: 'wav', levelDb, wav: cleanWavKick(HASH, 'kick.wav') },
    }),
  };
}

/** A clean sound with a line of a kind over two bars in F minor at 140 bpm, and a kick on every beat. */
export function soundWith(kind: LineKind): SoundDocument {
  const sound = cleanSound();
  const notes = {
    held: [0, 4].map((beat) => cleanNote({ tick: BEAT * beat, ticks: 4 * BEAT - 60, pitch: F1 })),
    short: Array.from({ length: 8 }, (_, beat) => cleanNote({ tick: BEAT * beat, ticks: 240, pitch: F1 })),
    rolling: Array.from({ length: 32 }, (_, step) =>
      cleanNote({ tick: 120 * step, ticks: 112, pitch: step % 16 < 14 ? F1 : F1 + 3 }),
    ),
    gliding: [
      cleanNote({ tick: 0, ticks: 960, pitch: F1 }),
      cleanNote({ tick: 960, ticks: 900, pitch: F1 + 3, tie: true }),
      cleanNote({ tick: 1920, ticks: 1440, pitch: F1 }),
      cleanNote({ tick: 3360, ticks: 420, pitch: F1 - 2, tie: true }),
    ],
    'two pitches': Array.from({ length: 8 }, (_, beat) =>
      cleanNote({ tick: BEAT * beat, ticks: 420, pitch: beat % 4 < 2 ? F1 : F1 + 5 }),
    ),
  }[kind];
  sound.layers[0].voice.glideMs = 90;
  return {
    ...sound,
    kick: {
      ...sound.kick,
      hits: Array.from({ length: 8 }, (_, beat) => ({ tick: BEAT * beat, velocity: 110 })),
    },
    line: { notes },
  };
}
