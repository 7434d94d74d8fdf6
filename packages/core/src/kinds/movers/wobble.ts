import { shapeAt } from '../../dsp/index.js';
import { MOST_NODES } from '../../schema/bounds.js';
import { choice, list, number, object, type Infer } from '../../schema/schema.js';
import { log } from '../../schema/shape-parts.js';
import { moverFields, moverKind, type MoverRunner } from './mover-kind.js';

const nodeShape = object({
  x: number('Position', '', 0, 1, 0, 'Position in the cycle.', { step: 0.005 }),
  y: number('Value', '', 0, 1, 0, 'Value at this position.', { step: 0.005 }),
  bend: number('Bend', '', -1, 1, 0, 'Bend of the segment that follows; positive starts slowly.', {
    step: 0.01,
  }),
});

const shape = object({
  ...moverFields('wobble', 'wobble-1', 'Wobble 1'),
  rateIn: choice(['beats', 'hertz'], 'beats'),
  rateBeats: number(
    'Rate',
    'beats',
    1 / 24,
    32,
    1,
    'Length of a cycle: 1/4 is one beat; T is a triplet, a dot is dotted.',
    log,
  ),
  rateHz: number('Rate', 'Hz', 0.02, 40, 4, 'Cycles per second.', log),
  restart: choice(['note', 'free'], 'note'),
  startDeg: number('Start phase', '°', 0, 360, 0, 'Where in the cycle it starts.', { step: 1 }),
  smoothMs: number('Smooth', 'ms', 0, 200, 3, 'Rounds off sharp corners.', { step: 0.5 }),
  nodes: list(nodeShape, 2, MOST_NODES),
});

export type ShapeNode = Infer<typeof nodeShape>;
type Wobble = Infer<typeof shape>;

const SHAPE_POINTS = 2048;

/** Cycles in a second of a wobble at a tempo. */
export function wobbleHz(wobble: Pick<Wobble, 'rateIn' | 'rateHz' | 'rateBeats'>, tempoBpm: number): number {
  return wobble.rateIn === 'hertz' ? wobble.rateHz : tempoBpm / 60 / wobble.rateBeats;
}

/** A wobble under way: its drawn shape as a table, a phase, and the rounding of its corners. */
class WobbleRunner implements MoverRunner<Wobble> {
  private readonly shape = new Float64Array(SHAPE_POINTS);
  /** Phase in cycles, smoothed value. */
  private readonly state = new Float64Array(2);
  private hz = 1;
  private start = 0;
  private restarts = true;
  private smoothFrames = 0;
  /** Frames of the last step, and how much of the gap to the shape is left after so many. */
  private readonly smoothing = Float64Array.of(0, 0);

  constructor(
    wobble: Wobble,
    private readonly sampleRateHz: number,
    freePhase: number,
  ) {
    this.set(wobble, 120);
    this.state[0] = this.restarts ? this.start : (this.start + freePhase) % 1;
    this.state[1] = this.read();
  }

  set(wobble: Wobble, tempoBpm: number): void {
    for (let i = 0; i < SHAPE_POINTS; i++) this.shape[i] = shapeAt(wobble.nodes, i / SHAPE_POINTS);
    this.hz = wobbleHz(wobble, tempoBpm);
    this.start = (wobble.startDeg / 360) % 1;
    this.restarts = wobble.restart === 'note';
    this.smoothFrames = (wobble.smoothMs / 1000) * this.sampleRateHz;
    this.smoothing[0] = 0;
  }

  copyFrom(other: WobbleRunner): void {
    this.state.set(other.state);
  }

  noteOn(): void {
    if (this.restarts) this.state[0] = this.start;
  }

  noteOff(): void {
    // It goes round, whether a note is held or not.
  }

  private read(): number {
    return this.shape[(this.state[0] * SHAPE_POINTS) | 0];
  }

  tell(values: Float64Array, at: number): void {
    values[at] = this.state[1];
  }

  step(frames: number): void {
    const { state } = this;
    let phase = state[0] + (frames * this.hz) / this.sampleRateHz;
    if (phase >= 1) phase -= Math.floor(phase);
    state[0] = phase;
    const value = this.read();
    if (this.smoothFrames < 1) {
      state[1] = value;
      return;
    }
    const { smoothing } = this;
    if (smoothing[0] !== frames) {
      smoothing[0] = frames;
      smoothing[1] = Math.exp((-3 * frames) / this.smoothFrames);
    }
    state[1] = value + (state[1] - value) * smoothing[1];
  }
}

/** A cycle drawn by hand that goes round at a rate. */
export const wobble = moverKind({
  shape,
  start: () => ({
    nodes: [
      { x: 0, y: 0, bend: 0 },
      { x: 0.5, y: 1, bend: 0 },
      { x: 1, y: 0, bend: 0 },
    ],
  }),
  check({ nodes }, problem) {
    if (nodes[0].x !== 0 || nodes[nodes.length - 1].x !== 1) problem('nodes', 'must run from x 0 to x 1');
    if (nodes.some((node, k) => k > 0 && node.x < nodes[k - 1].x)) problem('nodes', 'must rise in x');
  },
  run: (mover, sampleRateHz, seed) => new WobbleRunner(mover, sampleRateHz, seed),
  touched: false,
  runsFree: ({ restart }) => restart === 'free',
});
