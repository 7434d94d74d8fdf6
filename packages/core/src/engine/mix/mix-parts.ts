/**
 * A stretch of what grit and ceiling gave in a mix, so that another mix of the same sound need not run them: it follows,
 * part by part, and is the same to the bit.
 */
export interface MixPart {
  /** Its length; the arrays may be longer. */
  readonly frames: number;
  /** The bass behind grit, before its level. */
  readonly left: Float64Array;
  /** The same as `left` where the sides do not differ. */
  readonly right: Float64Array;
  /** Gain of the ceiling, frame by frame; null where it never acted. */
  readonly gains: Float64Array | null;
  /** Whether none comes after it. */
  readonly last: boolean;
}

/** Writes down what a mix gives, for one that follows it. */
export class MixWriter {
  private left!: Float64Array;
  private right!: Float64Array;
  private gains: Float64Array | null = null;
  private frames = 0;

  /** @param most frames that are written down before they are taken. */
  constructor(
    private readonly most: number,
    private readonly stereo: boolean,
  ) {
    this.begin();
  }

  private begin(): void {
    this.left = new Float64Array(this.most);
    this.right = this.stereo ? new Float64Array(this.most) : this.left;
    this.gains = null;
    this.frames = 0;
  }

  /** Takes down the next frames of the bass behind grit. */
  bass(left: Float64Array, right: Float64Array, frames: number): void {
    const at = this.frames;
    for (let i = 0; i < frames; i++) this.left[at + i] = left[i];
    if (this.stereo) for (let i = 0; i < frames; i++) this.right[at + i] = right[i];
  }

  /** Takes down the gain over the same frames, null where it is 1, and goes on behind them. */
  ceiling(gain: Float64Array | null, frames: number): void {
    if (gain) {
      this.gains ??= new Float64Array(this.most).fill(1);
      for (let i = 0; i < frames; i++) this.gains[this.frames + i] = gain[i];
    }
    this.frames += frames;
  }

  /** What was written since it was taken before; null where that is nothing, unless it is the last. */
  take(last: boolean): MixPart | null {
    const { frames, left, right, gains } = this;
    if (frames === 0 && !last) return null;
    this.begin();
    return { frames, left, right, gains, last };
  }
}

/** Reads what another mix gave, as its parts come. */
export class MixReader {
  private readonly parts: MixPart[] = [];
  private at = 0;
  /** Frames that have come and were not read yet. */
  private waiting = 0;
  private complete = false;
  /** Frames that the mix may read before it can wait again; the mix says so. */
  needs = 0;

  /** Takes the next part. */
  give(part: MixPart): void {
    if (part.frames > 0) this.parts.push(part);
    this.waiting += part.frames;
    this.complete = part.last;
  }

  /** Whether the mix can go on. */
  get ready(): boolean {
    return this.complete || this.waiting >= this.needs;
  }

  /** Puts the bass behind grit in the place of what a mix has there. */
  bass(left: Float64Array, right: Float64Array, frames: number): void {
    const part = this.parts.at(0);
    if (!part || this.at + frames > part.frames)
      throw new Error('the mix that is followed has not come so far');
    for (let i = 0; i < frames; i++) left[i] = part.left[this.at + i];
    if (right !== left) for (let i = 0; i < frames; i++) right[i] = part.right[this.at + i];
  }

  /** Writes the gain of the ceiling over the same frames, and goes on behind them; says whether it acted at all. */
  ceiling(gain: Float64Array, frames: number): boolean {
    const [{ gains, frames: most }] = this.parts;
    if (gains) for (let i = 0; i < frames; i++) gain[i] = gains[this.at + i];
    this.at += frames;
    this.waiting -= frames;
    if (this.at === most) {
      this.parts.shift();
      this.at = 0;
    }
    return gains !== null;
  }
}
