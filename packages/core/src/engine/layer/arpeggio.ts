import type { Layer } from '../../document/index.js';
import { Random } from '../../dsp/index.js';
import type { HeldNotes } from './held-notes.js';

// Places in the state: frames to the next step, frames to the end of the gate (below 0: none is open), number
// of the step.
const NEXT = 0;
const GATE = 1;
const STEP_NUMBER = 2;

/** What an arpeggio asks for after some frames. */
export const ARP_NOTHING = 0;
export const ARP_NOTE = 1;
export const ARP_END = 2;

/**
 * Runs the held notes one after the other over one or more octaves; begins anew with the first note that is
 * held.
 */
export class Arpeggio {
  /** Pitch and velocity of the note asked for. */
  readonly note = new Float64Array(2);
  /** Which of the held notes it is. */
  readonly from = new Int32Array(1);
  private readonly state = new Float64Array(3);
  private readonly random: Random;
  private readonly order = new Int32Array(32);

  constructor(
    private plays: Layer['plays'],
    private tempoBpm: number,
    private readonly sampleRateHz: number,
    seed: number,
    stream: number,
  ) {
    this.random = new Random(seed, stream);
    this.state[GATE] = -1;
  }

  set(plays: Layer['plays'], tempoBpm: number): void {
    this.plays = plays;
    this.tempoBpm = tempoBpm;
  }

  copyFrom(other: Arpeggio): void {
    this.state.set(other.state);
    this.random.copyFrom(other.random);
  }

  begin(): void {
    this.state[NEXT] = 0;
    this.state[STEP_NUMBER] = 0;
  }

  /** Places of the held notes by pitch, or as they were played. */
  private arrange(held: HeldNotes): void {
    const { order } = this;
    for (let i = 0; i < held.count; i++) {
      let at = i;
      if (this.plays.order !== 'played') {
        while (at > 0 && held.pitch[order[at - 1]] > held.pitch[i]) {
          order[at] = order[at - 1];
          at--;
        }
      }
      order[at] = i;
    }
  }

  private choose(held: HeldNotes): void {
    const { state, note, plays } = this;
    const all = held.count * plays.octaves;
    const k = state[STEP_NUMBER];
    let at = k % all;
    if (plays.order === 'down') at = all - 1 - at;
    else if (plays.order === 'both' && all > 1) {
      const round = k % (2 * all - 2);
      at = round < all ? round : 2 * all - 2 - round;
    } else if (plays.order === 'any') at = Math.floor(this.random.next() * all);
    this.arrange(held);
    const place = this.order[at % held.count];
    note[0] = held.pitch[place] + 12 * Math.floor(at / held.count);
    note[1] = held.velocity[place];
    this.from[0] = place;
  }

  /** Moves on by `frames` and says what is to be done; a new note ends the one before by itself. */
  step(frames: number, held: HeldNotes): number {
    const { state, plays } = this;
    let says = ARP_NOTHING;
    if (state[GATE] >= 0) {
      state[GATE] -= frames;
      if (state[GATE] < 0) says = ARP_END;
    }
    if (held.count === 0) return says;
    if (state[NEXT] <= 0) {
      const length = ((plays.rateBeats * 60) / this.tempoBpm) * this.sampleRateHz;
      this.choose(held);
      state[NEXT] += length;
      state[GATE] = (length * plays.gatePct) / 100;
      state[STEP_NUMBER]++;
      says = ARP_NOTE;
    }
    state[NEXT] -= frames;
    return says;
  }
}
