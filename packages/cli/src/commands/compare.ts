import { basename } from 'node:path';
import {
  AUDIO_FIGURES,
  audioFigures,
  renderLoop,
  soundingHz,
  THIRD_OCTAVES_HZ,
  thirdsLoudnessDb,
  type AudioFigures,
} from '@abyssal/core';
import { loadSound, loadWav } from './files.js';

const RATE = 48000;
const tidy = (value: number | null) => (value === null ? null : Number(value.toFixed(3)));

/** What is compared of a file: of a sound its bass over the loop, of a WAV all of it. */
async function figuresOf(path: string): Promise<{ kind: 'wav' | 'sound'; figures: AudioFigures }> {
  if (/\.wave?$/i.test(path)) {
    const { channels, sampleRateHz } = await loadWav(path);
    return { kind: 'wav', figures: audioFigures({ channels, sampleRateHz }) };
  }
  const { sound, assets } = await loadSound(path);
  const { bass, sampleRateHz } = renderLoop(sound, { sampleRateHz: RATE, assets, stems: 'none' });
  const lowest = Math.min(...sound.line.notes.map(({ pitch }) => soundingHz(sound, pitch)));
  const audio = { channels: [bass.left, bass.right], sampleRateHz, loop: true };
  return { kind: 'sound', figures: audioFigures(audio, Number.isFinite(lowest) ? lowest : undefined) };
}

/** Two sounds or WAV files side by side, and how the second differs by thirds of an octave once both are as loud. */
export async function compare(first: string, second: string) {
  const [a, b] = [await figuresOf(first), await figuresOf(second)];
  const matchedDb = thirdsLoudnessDb(a.figures.thirdsDb) - thirdsLoudnessDb(b.figures.thirdsDb);
  return {
    a: { file: basename(first), kind: a.kind },
    b: { file: basename(second), kind: b.kind, matchedDb: tidy(matchedDb) },
    figures: AUDIO_FIGURES.map(([id, label, unit]) => ({
      id,
      label,
      unit,
      a: tidy(a.figures[id].value),
      b: tidy(b.figures[id].value),
    })),
    thirds: THIRD_OCTAVES_HZ.map((hz, i) => {
      const aDb = a.figures.thirdsDb[i];
      const bDb = b.figures.thirdsDb[i] + matchedDb;
      return { hz: tidy(hz), aDb: tidy(aDb), bDb: tidy(bDb), differenceDb: tidy(bDb - aDb) };
    }),
  };
}
