import { chainsOf, cleanNote, type Layer, type SoundDocument } from '../../document/index.js';
import { renderLoop, type Assets } from '../../engine/index.js';
import { unitKindOf } from '../../kinds/units/index.js';
import { energyWithin, known, powerSpectrum, unknown, type Figure } from '../../measure/index.js';
import { noteToHz } from '../../music/index.js';
import { soundingHz } from '../passes/meetings.js';

/** What of the note settles first, and how long it is looked at after that at the least, in seconds; and rounds that it has then. */
const SETTLES_S = 0.26;
const LOOKED_S = 0.2;
const ROUNDS = 3;
/** Harmonics that are looked at end here. */
const HIGHEST_HZ = 20000;
/** Ratios of FM are multiples of an eighth: what repeats is so many cycles of the note. */
const FM_CYCLES = 8;
/** What is so far under the whole is nothing, dB. */
const NOTHING_DB = -140;
/** Slack in what is asked for of a ratio. */
const SLACK = 1e-6;

/** Why a layer has no steady note whose harmonics are known; null where it has. */
function unsteady({ name, tones, loudness, feedback }: Layer): string | null {
  if (feedback.on) return `${name} feeds back into itself`;
  if (loudness.sustainPct === 0) return `${name} has no sustain`;
  for (const { on, source, pitchIn, cents, semitones, copies, driftCents } of tones) {
    if (!on) continue;
    if (pitchIn !== 'note' || cents !== 0 || semitones % 12 !== 0)
      return `a tone of ${name} is tuned apart from the note`;
    if (copies > 1 || driftCents > 0) return `copies of ${name} are detuned`;
    if (source.kind === 'fm') {
      const even = source.oscillators.every(
        (each) =>
          !each.on ||
          (each.fineCents === 0 &&
            Math.abs(FM_CYCLES * each.ratio - Math.round(FM_CYCLES * each.ratio)) < SLACK),
      );
      if (!even) return `the FM of ${name} has ratios of its own`;
    } else if (source.kind !== 'shape' && source.kind !== 'harmonics' && source.kind !== 'frames')
      return `${name} has a tone without harmonics of the note`;
  }
  return null;
}

/** Why a sound has no steady note whose harmonics are known; null where it has. */
function whyNot(document: SoundDocument): string | null {
  if (document.feedback.on) return 'the whole sound feeds back into itself';
  for (const layer of document.layers) {
    const why = layer.on && layer.role !== 'knock' ? unsteady(layer) : null;
    if (why !== null) return why;
  }
  for (const { units } of chainsOf(document))
    for (const { on, kind } of units) {
      if (!on) continue;
      if (unitKindOf(kind).family === 'movement') return `the ${kind} moves by itself`;
      if (kind === 'crush') return 'what crush folds back is meant';
      if (kind === 'glare control' || kind === 'equaliser' || kind === 'note gap')
        return `the ${kind} comes and goes`;
    }
  return null;
}

/**
 * Energy off the harmonics of a steady note up to 20 kHz, dB against the whole: of the highest note of the line, held, without
 * anything that moves, at a pitch of a whole number of frames a period, so that all that belongs to it repeats to the frame. Null
 * for a sound that has no such note.
 */
export function aliasingOf(document: SoundDocument, sampleRateHz: number, assets?: Assets): Figure {
  const highest = Math.max(...document.line.notes.map(({ pitch }) => pitch));
  if (!Number.isFinite(highest)) return unknown('the line is empty');
  const why = whyNot(document);
  if (why !== null) return unknown(`no steady note to look at: ${why}`);
  const hz = noteToHz(highest, document.ground.a4Hz);
  const period = Math.round(sampleRateHz / hz);
  // The lowest tone may play octaves under the note; what repeats is a multiple of its cycle.
  const octaves = Math.max(0, Math.round(Math.log2(hz / soundingHz(document, highest))));
  const hasFm = document.layers.some(({ tones }) =>
    tones.some(({ on, source }) => on && source.kind === 'fm'),
  );
  const repeats = (hasFm ? FM_CYCLES : 1) * 2 ** octaves * period;
  const heldS = SETTLES_S + Math.max(LOOKED_S, ((ROUNDS + 0.5) * repeats) / sampleRateHz);
  const note: SoundDocument = {
    ...document,
    ground: {
      ...document.ground,
      tempoBpm: 240 / (1.15 * heldS),
      bars: 1,
      a4Hz: (document.ground.a4Hz * sampleRateHz) / period / hz,
    },
    kick: { ...document.kick, on: false, hits: [] },
    backing: [],
    duck: { ...document.duck, on: false },
    movers: [],
    links: [],
    lanes: [],
    line: { notes: [cleanNote({ tick: 0, ticks: Math.round(1920 / 1.15), pitch: highest })] },
  };
  const { bass } = renderLoop(note, { sampleRateHz, assets, stems: 'none', brief: true });
  const from = Math.round(SETTLES_S * sampleRateHz);
  const rounds = Math.floor((heldS * sampleRateHz - from) / repeats);
  const side = bass.left.subarray(from, from + rounds * repeats);
  // What repeats is the mean of all rounds; what is left of each is none of the note's harmonics.
  const mean = new Float64Array(repeats);
  for (let i = 0; i < side.length; i++) mean[i % repeats] += side[i] / rounds;
  const rest = side.map((x, i) => x - mean[i % repeats]);
  const energy = (signal: Float32Array) =>
    energyWithin(powerSpectrum({ channels: [signal], sampleRateHz, loop: true }), 10, HIGHEST_HZ);
  const whole = energy(side);
  if (!(whole > 1e-10)) return unknown('there is only silence');
  return known(Math.max(NOTHING_DB, 10 * Math.log10(energy(rest) / whole)));
}
