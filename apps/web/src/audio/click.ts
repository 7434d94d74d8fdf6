/** A click is a sine that dies away: the first beat of a bar higher. */
const HIGH_HZ = 1800;
const LOW_HZ = 1200;
const DIES_S = 0.012;
const LEVEL = 0.25;
const BEATS_PER_BAR = 4;

/** The click of the beats, on the audio thread alone: no render knows of it. */
export class Click {
  private phase = 0;
  private level = 0;
  private hz = LOW_HZ;
  /** Beat that was clicked last. */
  private beat = -1;
  /** Beats that were counted in. */
  private counted = 0;

  constructor(private readonly sampleRateHz: number) {}

  /** Counts from the start. */
  begin(): void {
    this.counted = 0;
    this.beat = -1;
  }

  /** Counts on by a block before the loop begins. */
  count(tempoBpm: number, left: Float32Array, right: Float32Array): void {
    this.follow(this.counted, left, right);
    this.counted += (left.length / this.sampleRateHz) * (tempoBpm / 60);
  }

  /** Clicks where a beat begins; `at` is the place in beats. */
  follow(at: number, left: Float32Array, right: Float32Array): void {
    // What is a hair before a beat by rounding is at it.
    const beat = Math.floor(at + 1e-6);
    if (beat !== this.beat) {
      this.beat = beat;
      this.phase = 0;
      this.level = LEVEL;
      this.hz = beat % BEATS_PER_BAR === 0 ? HIGH_HZ : LOW_HZ;
    }
    this.ring(left, right);
  }

  /** Lets the last click die away. */
  ring(left: Float32Array, right: Float32Array): void {
    if (this.level < 1e-5) return;
    const turn = (2 * Math.PI * this.hz) / this.sampleRateHz;
    const fall = Math.exp(-1 / (DIES_S * this.sampleRateHz));
    for (let i = 0; i < left.length; i++) {
      const click = this.level * Math.sin(this.phase);
      left[i] += click;
      right[i] += click;
      this.phase += turn;
      this.level *= fall;
    }
  }
}
