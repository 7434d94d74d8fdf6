import {
  linksInto,
  MACRO_IDS,
  MOST_LINKS,
  netOf,
  ROOT_NOTE,
  sourceCount,
  sourceIndex,
  type Mover,
  type SoundDocument,
} from '../../document/index.js';
import {
  BY_NOTE,
  MacroRunner,
  moverKindOf,
  PLAYED_CHANCE,
  PLAYED_NUMBERS,
  type MoverContext,
  type MoverInputs,
  type MoverRunner,
} from '../../kinds/movers/index.js';
import { KEY_NAMES } from '../../music/index.js';
import { loopFrames, loopTicks } from '../../units/index.js';
import { bankLanes, bankLinks } from './bank-links.js';
import type { Carriers } from './carriers.js';
import { LISTENED, type Heard } from './heard.js';
import { MoverNumbers } from './mover-numbers.js';
import { ParameterBank } from './parameter-bank.js';
import { switchesOn, switchRules, type SwitchRule } from './switches.js';

/** C of the octave in which the root of a key is taken to lie: F is `ROOT_NOTE`. */
const LOWEST_ROOT = ROOT_NOTE - KEY_NAMES.indexOf('F');
/** Notes that are not of the line tell themselves apart for chance by a count from here on. */
const OTHER_NOTES = 20_000_000;
/** Ticks by which the place of a point may be rounded. */
const ROUNDED = 1e-3;

export interface MoverBankOptions {
  readonly sampleRateHz: number;
  readonly seed: number;
  /** Whose links it serves: those of the layer with this id, or of the mix (null). */
  readonly layerId: string | null;
  /** Whether every mover that is linked at all runs, for whoever wants to see it. */
  readonly all?: boolean;
}

/** Number of a stream of chance by the id of a mover: the same wherever the mover stands in the list. */
function streamOf(id: string): number {
  let hash = 200;
  for (let i = 0; i < id.length; i++) hash = (Math.imul(hash, 31) + id.charCodeAt(i)) | 0;
  return hash & 0xffffff;
}

function contextOf({ ground, backing }: SoundDocument): MoverContext {
  return {
    tempoBpm: ground.tempoBpm,
    rootPitch: LOWEST_ROOT + KEY_NAMES.indexOf(ground.key),
    parts: backing.map(({ id }) => id),
  };
}

/** What a runner takes is known to its kind alone. */
type AnyRunner = MoverRunner<unknown>;

/**
 * The movers and macros of a document under way: values from 0 to 1. Only what the links of its part need is
 * run, each after what it depends on; the others make up for the time when somebody needs them.
 */
export class MoverBank implements Carriers {
  /** Where movers and then macros stand, and whether each is on. */
  readonly value: Float64Array;
  readonly on: Uint8Array;
  readonly changed = new Int32Array(1);
  /** How far each link of the document reaches now, −1 to 1, and whether macros let it. */
  readonly reach = new Float64Array(MOST_LINKS);
  readonly span = new Float64Array(MOST_LINKS);
  readonly linkOn = new Uint8Array(MOST_LINKS).fill(1);
  /** Which mover or macro each of them belongs to, and where it starts. */
  private readonly linkSource = new Uint8Array(MOST_LINKS);
  private readonly linkFrom = new Float64Array(MOST_LINKS);
  /** How often macros have switched links: who is reached by them sees by it that what they carry jumps. */
  readonly switched = new Int32Array(1);
  readonly inputs: MoverInputs;
  /** How much of what envelopes say is passed on, 0 to 1: the velocity's say in them. */
  readonly touch = Float64Array.of(1);
  /** The greatest frequency in what it runs, in hertz, above what control steps carry; 0 where there is none. */
  fastestHz = 0;
  /** Whether any of what it runs follows the layer itself. */
  hearsSelf = false;
  /** Whether it must be told what was heard: it runs what follows the kick, or a part may start something. */
  hears = false;
  private readonly runners: readonly AnyRunner[];
  private readonly touched: Uint8Array;
  private readonly layout: MoverNumbers;
  private readonly numbers: ParameterBank;
  /** In which order what is needed is run: the place of a mover or macro, or −1 less the place of a link whose reach is moved. */
  private order = new Int32Array(0);
  private readonly needed: Uint8Array;
  private rules: readonly SwitchRule[] = [];
  /** Frames that have passed, round and round 2³², and up to where each has been run: whole numbers, which calls pass on as they are. */
  private readonly clock = new Int32Array(1);
  private readonly until: Int32Array;
  /** Whether only notes move it. */
  private readonly stands: Uint8Array;
  /** Notes that were not of the line. */
  private readonly others = new Int32Array(1);
  private movers: readonly Mover[];
  private context: MoverContext;

  constructor(
    document: SoundDocument,
    private readonly options: MoverBankOptions,
  ) {
    const { sampleRateHz, seed } = options;
    const count = sourceCount(document);
    this.movers = document.movers;
    this.context = contextOf(document);
    this.inputs = {
      note: new Float64Array(PLAYED_NUMBERS),
      levels: new Float64Array(LISTENED),
      place: Float64Array.of(-1, 0, -1),
    };
    this.value = new Float64Array(count);
    this.on = new Uint8Array(count).fill(1);
    this.needed = new Uint8Array(count);
    this.until = new Int32Array(count);
    this.stands = new Uint8Array(count);
    this.touched = new Uint8Array(count);
    this.layout = new MoverNumbers(document);
    this.numbers = new ParameterBank(this.layout.rows, this.layout.values(document), sampleRateHz);
    this.runners = [
      ...document.movers.map((mover, i) => {
        const kind = moverKindOf(mover.kind);
        this.touched[i] = kind.touched ? 1 : 0;
        this.stands[i] = kind.stands ? 1 : 0;
        const start = { sampleRateHz, seed, stream: streamOf(mover.id), inputs: this.inputs };
        return kind.run(mover, start, this.context);
      }),
      ...MACRO_IDS.map(() => new MacroRunner() as AnyRunner),
    ];
    this.stands.fill(1, document.movers.length);
    this.takeLinks(document);
    this.tuneAll();
    this.numbers.begin(
      bankLinks(document, this.layout.slotOf),
      bankLanes(document, this.layout.slotOf),
      this,
    );
    this.switchLinks();
  }

  /** Takes other settings for the same movers; says whether what they carry may jump. */
  set(document: SoundDocument): boolean {
    const context = contextOf(document);
    const before = this.context;
    const other =
      context.tempoBpm !== before.tempoBpm ||
      context.rootPitch !== before.rootPitch ||
      context.parts.join() !== before.parts.join();
    let jumps = other;
    this.context = context;
    document.movers.forEach((mover, i) => {
      if (mover === this.movers[i] && !other) return;
      this.runners[i].set(mover, context);
      this.say(i);
      jumps = true;
    });
    this.movers = document.movers;
    this.takeLinks(document);
    const { layout, numbers } = this;
    const moved = layout.takeLinks(document);
    numbers.setTargets(layout.values(document));
    for (const slot of moved) numbers.jump(slot);
    if (moved.length > 0) this.findReaches();
    numbers.setLinks(bankLinks(document, layout.slotOf), bankLanes(document, layout.slotOf), this, jumps);
    return jumps || moved.length > 0;
  }

  private takeLinks(document: SoundDocument): void {
    const { layerId, all } = this.options;
    document.movers.forEach((mover, i) => {
      this.on[i] = mover.on ? 1 : 0;
    });
    const wanted = all
      ? document.links.flatMap(({ on }, l) => (on ? [l] : []))
      : linksInto(document, layerId);
    document.links.forEach(({ mover, fromPct }, l) => {
      this.linkSource[l] = Math.max(0, sourceIndex(document, mover));
      this.linkFrom[l] = fromPct / 100;
      this.span[l] = this.reach[l] - this.linkFrom[l];
    });
    const order = netOf(document, wanted).map(({ kind, index }) => (kind === 'source' ? index : -1 - index));
    this.rules = switchRules(document, (what) => (what.what === 'link' ? what.link : -1));
    document.macros.forEach(({ switches }, m) => {
      const at = document.movers.length + m;
      if ((switches.length > 0 || all) && !order.includes(at)) order.push(at);
    });
    this.order = Int32Array.from(order);
    this.needed.fill(0);
    this.fastestHz = 0;
    this.hearsSelf = false;
    for (const i of order) {
      if (i < 0) continue;
      this.needed[i] = 1;
      if (i >= document.movers.length || !document.movers[i].on) continue;
      const mover = document.movers[i];
      const kind = moverKindOf(mover.kind);
      this.fastestHz = Math.max(this.fastestHz, kind.fastestHz?.(mover) ?? 0);
      this.hearsSelf ||= kind.hearsSelf?.(mover) ?? false;
    }
    this.hears = document.movers.some((mover, i) => {
      const of = moverKindOf(mover.kind).hears?.(mover) ?? null;
      return of !== null && (of !== 'kick' || this.needed[i] === 1);
    });
    this.linkOn.fill(1);
    for (const rule of this.rules) this.linkOn[rule.slot] = switchesOn(rule, this) ? 1 : 0;
  }

  /** Goes on from where another bank stands; movers are matched by id. */
  copyFrom(other: MoverBank): void {
    this.touch.set(other.touch);
    this.others.set(other.others);
    this.clock.set(other.clock);
    this.inputs.note.set(other.inputs.note);
    this.inputs.place.set(other.inputs.place);
    this.runners.forEach((runner, i) => {
      const macro = i - this.movers.length;
      const at =
        macro >= 0
          ? other.movers.length + macro
          : other.movers.findIndex(
              ({ id, kind }) => id === this.movers[i].id && kind === this.movers[i].kind,
            );
      if (at < 0) return;
      this.until[i] = other.until[at];
      runner.copyFrom(other.runners[at]);
    });
    this.numbers.copyFrom(other.numbers, this.layout.placesIn(other.layout), this);
    this.tuneAll();
    this.switchLinks();
  }

  /** Whether any mover has to be run. */
  get runs(): boolean {
    return this.order.length > 0;
  }

  /** Says where the loop stands: its frame at the start of the step (below 0 while it does not run), and its ticks a frame. */
  stand(place: number, frames: number, perFrame: Float64Array): void {
    const ticks = this.inputs.place;
    ticks[1] = perFrame[0];
    // A point of a lane that has been rounded to here belongs to this step.
    ticks[2] = place < 0 ? -1 : place * perFrame[0] + ROUNDED;
    ticks[0] = place < 0 ? -1 : (place + frames) * perFrame[0];
  }

  /** Takes what was heard of kick and backing parts in a control step, and lets them start what they start. */
  hear({ listened, levels, strikes, first }: Heard, step: number): void {
    const from = (first[0] + step) * listened.length;
    for (let i = 0; i < listened.length; i++) {
      const by = listened[i];
      this.inputs.levels[by] = levels[from + i];
      if (strikes[from + i] === 1) this.struck(by, -1);
    }
  }

  /** Takes the peak of the layer itself. */
  hearSelf(peak: Float64Array): void {
    this.inputs.levels[BY_NOTE] = peak[0];
  }

  /** The kick or a backing part strikes, for the `number`-th time in the loop; below 0 where that is not known. */
  struck(by: number, number: number): void {
    for (let i = 0; i < this.runners.length; i++) {
      const runner = this.runners[i];
      if (!runner.struck) continue;
      this.catchUp(i);
      runner.struck(by, number);
      this.say(i);
    }
  }

  /** The note in the inputs begins: what moves others first, so that it has its say in how they begin. */
  noteOn(source: number, ofLine: boolean): void {
    const { order, needed, runners, numbers, inputs } = this;
    const { first } = this.layout;
    inputs.note[PLAYED_CHANCE] = ofLine ? source : OTHER_NOTES + this.others[0]++;
    for (let k = 0; k < order.length; k++) {
      const i = order[k];
      if (i < 0) {
        const slot = this.layout.reaches - 1 - i;
        numbers.carry(slot, slot + 1, 0, this);
        this.findReach(-1 - i);
      } else {
        if (numbers.carries(first[i], first[i + 1])) numbers.carry(first[i], first[i + 1], 0, this);
        this.begin(i);
      }
    }
    for (let i = 0; i < runners.length; i++) if (needed[i] === 0) this.begin(i);
  }

  private begin(i: number): void {
    const runner = this.runners[i];
    if (!runner.noteOn) return;
    this.catchUp(i);
    this.tune(i);
    runner.noteOn();
    // Its rate may be the note's own.
    this.tune(i);
    this.say(i);
  }

  /** The last held note ended. */
  noteOff(): void {
    for (let i = 0; i < this.runners.length; i++) {
      const runner = this.runners[i];
      if (!runner.noteOff) continue;
      this.catchUp(i);
      runner.noteOff();
    }
  }

  private catchUp(i: number): void {
    const frames = (this.clock[0] - this.until[i]) | 0;
    if (frames === 0) return;
    this.until[i] = this.clock[0];
    if (this.stands[i] === 1) return;
    this.runners[i].step(frames, this.value, i);
    this.changed[0] |= 1 << i;
  }

  /** Time passes without anyone listening: it is made up for when a note begins or ends, or when someone does. */
  wait(frames: number): void {
    this.clock[0] += frames;
  }

  /** Moves on by `frames` all that is needed. */
  step(frames: number): void {
    const { order, numbers, runners, value, until, stands, touched } = this;
    const { first } = this.layout;
    const now = (this.clock[0] + frames) | 0;
    this.clock[0] = now;
    numbers.travel(frames, this.inputs.place);
    const { still, linked } = numbers;
    if (!still) {
      // Reaches that nothing moves travel as well.
      numbers.carry(this.layout.reaches, this.layout.reaches + MOST_LINKS, frames, this);
      this.findReaches();
    }
    for (let k = 0; k < order.length; k++) {
      const i = order[k];
      if (i < 0) {
        const slot = this.layout.reaches - 1 - i;
        if (numbers.carry(slot, slot + 1, frames, this)) this.findReach(-1 - i);
        continue;
      }
      if (
        (!still || (linked && numbers.carries(first[i], first[i + 1]))) &&
        numbers.carry(first[i], first[i + 1], frames, this)
      ) {
        this.tune(i);
        this.say(i);
      }
      if (stands[i] === 1) continue;
      const before = value[i];
      runners[i].step((now - until[i]) | 0, value, i);
      until[i] = now;
      if (touched[i] === 1) value[i] *= this.touch[0];
      if (value[i] !== before) this.changed[0] |= 1 << i;
    }
    numbers.arrive();
    if (this.rules.length > 0) this.switchLinks();
  }

  private tune(i: number): void {
    this.runners[i].tune?.(this.numbers.value, this.layout.first[i]);
  }

  private tuneAll(): void {
    for (let i = 0; i < this.runners.length; i++) {
      this.tune(i);
      this.say(i);
    }
    this.findReaches();
  }

  /** Takes down where a mover stands. */
  private say(i: number): void {
    const { value } = this;
    const before = value[i];
    this.runners[i].tell(value, i);
    if (this.touched[i] === 1) value[i] *= this.touch[0];
    if (value[i] !== before) this.changed[0] |= 1 << i;
  }

  private findReach(link: number): void {
    const reach = this.numbers.value[this.layout.reaches + link] / 100;
    if (reach === this.reach[link]) return;
    this.reach[link] = reach;
    this.span[link] = reach - this.linkFrom[link];
    this.changed[0] |= 1 << this.linkSource[link];
  }

  private findReaches(): void {
    for (let link = 0; link < MOST_LINKS; link++) this.findReach(link);
  }

  private switchLinks(): void {
    const { rules, linkOn } = this;
    for (let r = 0; r < rules.length; r++) {
      const to = switchesOn(rules[r], this) ? 1 : 0;
      if (linkOn[rules[r].slot] === to) continue;
      linkOn[rules[r].slot] = to;
      this.switched[0]++;
      this.numbers.mend(this);
    }
  }

  /** Place among its numbers of what a target means, −1 for none; where each of them stands, 0 to 1. */
  slotOf(document: SoundDocument, target: string): number {
    return this.layout.slotOf(document, target);
  }

  get places(): Float64Array {
    return this.numbers.place;
  }
}

/** Ticks that pass in a frame of a document's loop, in a place of its own. */
export function ticksPerFrame({ ground }: SoundDocument, sampleRateHz: number): Float64Array {
  return Float64Array.of(loopTicks(ground.bars) / loopFrames(ground.bars, ground.tempoBpm, sampleRateHz));
}
