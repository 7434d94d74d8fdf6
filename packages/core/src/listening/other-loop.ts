import type { SoundDocument } from '../document/index.js';
import { resample } from '../dsp/index.js';
import { renderLoopSteps, type Recording, type RenderOptions, type Stereo } from '../engine/index.js';
import { audioFigures, measureLoudness, truePeakDb, type AudioFigures } from '../measure/index.js';
import type { OtherLoop } from './other-stage.js';

/** Another loop with what it is compared by. */
export interface ComparedLoop {
  readonly loop: OtherLoop;
  /** Loudness of kick and bass together, or of the recording, LUFS; null where it cannot be told. */
  readonly lufs: number | null;
  /** What is measured of its bass, loudness and true peak with the kick; or of the recording. */
  readonly figures: AudioFigures;
}

function sum(a: Stereo, b: Stereo): Stereo {
  const side = (x: Float32Array, y: Float32Array) => x.map((value, i) => value + y[i]);
  return { left: side(a.left, b.left), right: side(a.right, b.right) };
}

/** Both sides, also where they are one: what is played on both counts as two channels. */
const channelsOf = ({ left, right }: Stereo) => [left, right];

/**
 * Renders a kept state or another sound to be heard in the place of a sound: at its tempo and with its backing parts. In steps
 * that yield the share done.
 */
export function* comparedLoopSteps(
  document: SoundDocument,
  under: Pick<SoundDocument, 'ground' | 'backing'>,
  options: Pick<RenderOptions, 'sampleRateHz' | 'assets'>,
): Generator<number, ComparedLoop> {
  const { tempoBpm } = under.ground;
  const sound: SoundDocument = {
    ...document,
    ground: { ...document.ground, tempoBpm },
    backing: under.backing,
    // What ducks or moves by a part that is not there does so by the kick.
    duck: under.backing.some(({ id }) => id === document.duck.from)
      ? document.duck
      : { ...document.duck, from: 'kick' },
  };
  const { all, bass, kick, backing } = yield* renderLoopSteps(sound, { ...options, stems: 'none' });
  const { sampleRateHz } = options;
  const together = { channels: channelsOf(all), sampleRateHz, loop: true };
  const integratedLufs = measureLoudness(together).integrated;
  return {
    loop: { both: backing ? sum(all, backing) : all, bass, kick },
    lufs: integratedLufs.value,
    figures: {
      ...audioFigures({ channels: channelsOf(bass), sampleRateHz, loop: true }),
      integratedLufs,
      truePeakDbtp: truePeakDb(together),
    },
  };
}

/** A recording as it is heard in the place of a sound, at another sample rate. */
export function comparedRecording({ channels, sampleRateHz }: Recording, toHz: number): ComparedLoop {
  const at = channels.map((side) => (sampleRateHz === toHz ? side : resample(side, sampleRateHz, toHz)));
  const [left, right = left] = at;
  const loop: Stereo = { left, right };
  return {
    loop: { both: loop, bass: loop, kick: loop },
    lufs: measureLoudness({ channels: channelsOf(loop), sampleRateHz: toHz }).integrated.value,
    figures: audioFigures({ channels, sampleRateHz }),
  };
}
