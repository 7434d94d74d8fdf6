import { placesOf } from '../../../schema/places.js';
import { number, object, type Infer } from '../../../schema/schema.js';
import { log, movable } from '../../../schema/shape-parts.js';
import { dbToGain } from '../../../units/index.js';
import { unitFields, unitKind, type UnitRunner, type UnitStart } from '../kind/unit-kind.js';

const shape = object({
  ...unitFields('note gap'),
  gapMs: number('Gap', 'ms', 1, 200, 25, 'How long it is silent before each note.', { ...log, ...movable }),
  fadeMs: number('Fade', 'ms', 0.5, 100, 8, 'How long the fade into the silence takes.', {
    ...log,
    ...movable,
  }),
  depthDb: number('Depth', 'dB', -60, 0, -60, 'How far it falls; silent at the lowest.', {
    ...movable,
    step: 0.5,
  }),
});
const NUMBER = placesOf(shape);

type NoteGap = Infer<typeof shape>;

/** Time in which the note itself comes in, in seconds. */
const OPENS_S = 0.0005;
const SILENT_DB = -60;

/**
 * A breath of silence before each note of the line: a cosine's half down to the gap, then open again within half a
 * millisecond as the note begins. It is told ahead when that will be.
 */
class NoteGapRunner implements UnitRunner<NoteGap> {
  readonly lateFrames = 0;
  private readonly gain = Float64Array.of(1);

  constructor(
    _unit: NoteGap,
    private readonly start: UnitStart,
  ) {}

  copyFrom(other: NoteGapRunner): void {
    this.gain.set(other.gain);
  }

  process(
    left: Float64Array,
    right: Float64Array,
    from: number,
    to: number,
    numbers: Float64Array,
    at: number,
  ): void {
    const { sampleRateHz, hears } = this.start;
    const ahead = hears.ahead[0];
    const gap = (numbers[at + NUMBER.gapMs] / 1000) * sampleRateHz;
    const fade = (numbers[at + NUMBER.fadeMs] / 1000) * sampleRateHz;
    const depthDb = numbers[at + NUMBER.depthDb];
    const floor = depthDb <= SILENT_DB ? 0 : dbToGain(depthDb);
    const opens = 1 / (OPENS_S * sampleRateHz);
    const two = right !== left;
    let gain = this.gain[0];
    if (gain === 1 && ahead - to > gap + fade) return;
    for (let i = from; i < to; i++) {
      const rest = ahead - i;
      let wanted = 1;
      if (rest > 0 && rest < gap + fade) {
        const way = rest > gap ? (rest - gap) / fade : 0;
        wanted = floor + (1 - floor) * 0.5 * (1 - Math.cos(Math.PI * way));
      }
      gain = wanted > gain + opens ? gain + opens : wanted;
      left[i] *= gain;
      if (two) right[i] *= gain;
    }
    this.gain[0] = gain;
  }
}

/** A breath before each note. */
export const noteGap = unitKind({
  shape,
  family: 'dynamics',
  label: 'Note gap',
  purpose: 'A breath of silence before each note, so that hits stay sharp.',
  run: (unit, start) => new NoteGapRunner(unit, start),
  awaitsNotes: true,
});
