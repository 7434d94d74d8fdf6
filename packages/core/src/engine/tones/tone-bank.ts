import { noteToHz } from '../../music/index.js';
import type { SourceOf, Tone } from '../../document/index.js';
import {
  builtInFrames,
  CycleBank,
  framesFromAudio,
  harmonicSpectrum,
  tableLimitHz,
  waveBank,
  type CycleSpectrum,
  type HarmonicTreatment,
} from '../../dsp/index.js';
import type { Assets, Recording } from '../base/recording.js';

/** Banks of drawn harmonics that are kept; a bank that is still in use is held by its voices. */
const KEPT = 24;
const drawn = new Map<string, CycleBank>();
const tables = new Map<string, CycleBank>();
const cut = new WeakMap<Recording, Map<string, CycleBank>>();

/** What is done to a drawn set before it sounds, from the document. */
export function treatmentOf(
  { stopAfter, tiltDb, evenDb, pocket }: SourceOf<'harmonics'>,
  a4Hz: number,
): HarmonicTreatment {
  return { stopAfter, tiltDb, evenDb, pocket, pocketHz: noteToHz(pocket.pitch, a4Hz) };
}

const made = new WeakMap<
  SourceOf<'harmonics'>,
  { readonly a4Hz: number; readonly spectra: readonly CycleSpectrum[] }
>();

/**
 * The spectra of a harmonics tone: its first drawn state, and its second where it has one. They are worked out
 * once for every voice that plays it.
 */
export function drawnSpectra(source: SourceOf<'harmonics'>, a4Hz: number): readonly CycleSpectrum[] {
  const known = made.get(source);
  if (known?.a4Hz === a4Hz) return known.spectra;
  const spectra = spectraOf(source, a4Hz);
  made.set(source, { a4Hz, spectra });
  return spectra;
}

function spectraOf(source: SourceOf<'harmonics'>, a4Hz: number): CycleSpectrum[] {
  const { a, b } = source;
  const treatment = treatmentOf(source, a4Hz);
  const count = Math.max(a.levelsDb.length, b?.levelsDb.length ?? 0);
  return b
    ? [harmonicSpectrum(a, treatment, count), harmonicSpectrum(b, treatment, count)]
    : [harmonicSpectrum(a, treatment, count)];
}

function drawnBank(source: SourceOf<'harmonics'>, a4Hz: number, limitHz: number): CycleBank {
  const key = JSON.stringify([source.a, source.b, treatmentOf(source, a4Hz), limitHz]);
  const found = drawn.get(key);
  if (found) return found;
  if (drawn.size >= KEPT) drawn.delete(drawn.keys().next().value!);
  const bank = new CycleBank(drawnSpectra(source, a4Hz), { limitHz, most: 16384 });
  drawn.set(key, bank);
  return bank;
}

const SILENT: CycleSpectrum = { sine: new Float64Array(1), cosine: new Float64Array(1) };

function frameBank(source: SourceOf<'frames'>, assets: Assets, limitHz: number): CycleBank {
  const options = { limitHz, oversize: 32, least: 1024, most: 8192 };
  if (!source.wav) {
    const key = `${source.table} ${limitHz}`;
    let bank = tables.get(key);
    if (!bank) tables.set(key, (bank = new CycleBank(builtInFrames(source.table), options)));
    return bank;
  }
  const recording = assets.get(source.wav.asset);
  if (!recording) return new CycleBank([SILENT], options);
  let banks = cut.get(recording);
  if (!banks) cut.set(recording, (banks = new Map<string, CycleBank>()));
  const key = `${source.wav.cycleFrames} ${limitHz}`;
  let bank = banks.get(key);
  if (!bank) {
    const frames = framesFromAudio(recording.channels[0], source.wav.cycleFrames);
    banks.set(key, (bank = new CycleBank(frames.length > 0 ? frames : [SILENT], options)));
  }
  return bank;
}

/** The single cycles of a Shape, Harmonics or Frames tone, shared by all that read them. */
export function toneBank(
  source: Tone['source'],
  a4Hz: number,
  assets: Assets,
  sampleRateHz: number,
): CycleBank {
  const limitHz = tableLimitHz(sampleRateHz);
  if (source.kind === 'harmonics') return drawnBank(source, a4Hz, limitHz);
  if (source.kind === 'frames') return frameBank(source, assets, limitHz);
  return waveBank(source.kind === 'shape' && source.shape !== 'pulse' ? source.shape : 'saw', limitHz);
}
