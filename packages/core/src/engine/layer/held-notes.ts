/** Notes held at once that are remembered. */
const MOST = 32;

/** The notes that are held, oldest first. */
export class HeldNotes {
  readonly source = new Int32Array(MOST);
  readonly pitch = new Float64Array(MOST);
  readonly velocity = new Float64Array(MOST);
  /** 1 for an accent; beats of its own wobble rate; its number in the line; as movers are told of them. */
  readonly accent = new Float64Array(MOST);
  readonly rate = new Float64Array(MOST);
  readonly number = new Float64Array(MOST);
  private readonly counts = new Int32Array(1);

  get count(): number {
    return this.counts[0];
  }

  copyFrom(other: HeldNotes): void {
    this.source.set(other.source);
    this.pitch.set(other.pitch);
    this.velocity.set(other.velocity);
    this.accent.set(other.accent);
    this.rate.set(other.rate);
    this.number.set(other.number);
    this.counts.set(other.counts);
  }

  /** Adds a note; the oldest is forgotten where there are too many. */
  add(source: number, pitch: number, velocity: number, accent: number, rate: number, number: number): void {
    if (this.count === MOST) this.removeAt(0);
    const at = this.counts[0]++;
    this.source[at] = source;
    this.pitch[at] = pitch;
    this.velocity[at] = velocity;
    this.accent[at] = accent;
    this.rate[at] = rate;
    this.number[at] = number;
  }

  /** Place of a note, −1 when it is not held. */
  find(source: number): number {
    for (let i = this.count - 1; i >= 0; i--) if (this.source[i] === source) return i;
    return -1;
  }

  removeAt(at: number): void {
    const last = this.count - 1;
    for (let i = at; i < last; i++) {
      this.source[i] = this.source[i + 1];
      this.pitch[i] = this.pitch[i + 1];
      this.velocity[i] = this.velocity[i + 1];
      this.accent[i] = this.accent[i + 1];
      this.rate[i] = this.rate[i + 1];
      this.number[i] = this.number[i + 1];
    }
    this.counts[0] = last;
  }

  /** Place of the note that speaks where only one may: the last one, or the lowest or highest. */
  speaking(which: 'last' | 'lowest' | 'highest'): number {
    let best = this.count - 1;
    if (which === 'last') return best;
    for (let i = this.count - 1; i >= 0; i--) {
      if (which === 'lowest' ? this.pitch[i] < this.pitch[best] : this.pitch[i] > this.pitch[best]) best = i;
    }
    return best;
  }
}
