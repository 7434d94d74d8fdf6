import type { SourceOf, Tone } from '../../document/index.js';
import { ColouredNoise } from '../../dsp/index.js';
import { TONE, type ToneContext, type ToneGenerator } from './tone.js';

const { tiltDb: TILT } = TONE.source.noise;

/** Slopes of the colours in dB per octave. */
const SLOPES = { white: 0, pink: -3.0103, brown: -6.0206 } as const;

/** Seeded noise of a colour; with a locked start every note has the same noise. */
export class NoiseTone implements ToneGenerator {
  readonly ringing = 0;
  readonly hasPhase = false;
  private readonly noise: ColouredNoise;
  private slope: number;
  private locked: boolean;
  private readonly numbers = new Float64Array(1);

  constructor(tone: Tone, context: ToneContext) {
    this.noise = new ColouredNoise(context.seed, context.stream, context.sampleRateHz);
    this.slope = SLOPES[(tone.source as SourceOf<'noise'>).colour];
    this.locked = tone.startPhase === 'locked';
  }

  set(tone: Tone): void {
    this.slope = SLOPES[(tone.source as SourceOf<'noise'>).colour];
    this.locked = tone.startPhase === 'locked';
  }

  copyFrom(other: ToneGenerator): void {
    if (other instanceof NoiseTone) this.noise.copyFrom(other.noise);
  }

  start(): void {
    if (this.locked) this.noise.restart();
  }

  rephase(): void {
    // Noise has no phase.
  }

  release(): void {
    // Noise goes on as it is; the voice lets it fade.
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    _pitch: Float64Array,
    values: Float64Array,
    base: number,
    stereo: boolean,
  ): void {
    this.numbers[0] = this.slope + values[base + TILT];
    this.noise.write(left, from, to, this.numbers, 0);
    if (stereo) for (let i = from; i < to; i++) right[i] = left[i];
  }
}
