import {
  crestDb,
  dcWeighted,
  findClicks,
  fundamental,
  gainToDb,
  measureLoudness,
  measureMono,
  middle,
  nearestNote,
  samplePeak,
  truePeakDb,
} from '@abyssal/core';
import { loadWav } from './files.js';

const finite = (value: number) => (Number.isFinite(value) ? value : null);

/** Measures a WAV file. Figures that cannot be computed are null. */
export async function measure(path: string) {
  const { channels, sampleRateHz } = await loadWav(path);
  const audio = { channels, sampleRateHz };
  const loudness = measureLoudness(audio);
  const mono = measureMono(audio);
  const mid = middle(channels);
  const hz = fundamental(mid, sampleRateHz).value;
  const pitch = hz === null ? null : nearestNote(hz);
  return {
    sampleRateHz,
    channels: channels.length,
    durationS: channels[0].length / sampleRateHz,
    loudness: {
      integratedLufs: loudness.integrated.value,
      shortTermMaxLufs: loudness.shortTermMax.value,
      momentaryMaxLufs: loudness.momentaryMax.value,
      rangeLu: loudness.range.value,
    },
    truePeakDbtp: truePeakDb(audio).value,
    samplePeakDbfs: finite(gainToDb(samplePeak(channels))),
    crestDb: finite(crestDb(channels)),
    dc: dcWeighted(mid),
    pitch: pitch ? { hz, note: pitch.name, cents: pitch.cents } : { hz: null, note: null, cents: null },
    mono: {
      lowLossDb: mono.low.value,
      bands: mono.bands.map((band) => ({
        centreHz: band.centreHz,
        lossDb: band.lossDb.value,
        correlation: band.correlation.value,
      })),
    },
    clicks: findClicks(audio),
  };
}
