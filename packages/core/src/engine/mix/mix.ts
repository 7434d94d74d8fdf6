import { parameter, type Duck, type SoundDocument, type UnitPlace } from '../../document/index.js';
import { BLOCK, STEP } from '../../dsp/index.js';
import { noteToHz } from '../../music/index.js';
import type { UnitStart } from '../../kinds/units/index.js';
import { dbToGain } from '../../units/index.js';
import {
  PLAYED_ACCENT,
  PLAYED_NUMBER,
  PLAYED_PITCH,
  PLAYED_RATE,
  PLAYED_TIE,
  PLAYED_VELOCITY,
  BY_KICK,
} from '../../kinds/movers/index.js';
import type { Block, LayerBlock } from './block.js';
import { Ducker, duckGain } from './duck.js';
import { DuckStage } from './duck-stage.js';
import { Ending } from './ending.js';
import { FeedbackLoop } from '../layer/feedback.js';
import { GritLayout, gritValues } from '../units/grit-layout.js';
import { GritStage } from '../units/grit-stage.js';
import { ControlSteps } from '../units/control-steps.js';
import { NO_MARKS, type NoteMarks } from '../units/note-marks.js';
import type { Overheard } from '../sides/overheard.js';
import type { UnitChain } from '../units/unit-chain.js';
import type { UnitSlot } from '../units/unit-slot.js';
import { bankLanes, bankLinks, slotsOf } from '../movers/bank-links.js';
import type { Heard } from '../movers/heard.js';
import { MoverBank, ticksPerFrame } from '../movers/mover-bank.js';
import { ParameterBank } from '../movers/parameter-bank.js';
import { Switches, switchRules } from '../movers/switches.js';
import { NOWHERE } from '../layer/layer-player.js';
import { isStereo } from '../layer/layer-sides.js';
import { stepFor } from '../movers/step-for.js';
import { chainLate } from '../units/late-frames.js';
import { LayerWait } from './layer-wait.js';
import type { MixReader, MixWriter } from './mix-parts.js';
import { StemTaps } from './stem-taps.js';

const FIELDS = [
  'output.levelDb',
  'output.ceilingDb',
  'kick.levelDb',
  'kick.wav.gainDb',
  'feedback.amountPct',
  'feedback.delayMs',
] as const;
const ROWS = FIELDS.map(parameter);
const LEVEL = 0;
const CEILING = 1;
const KICK_LEVEL = 2;
const KICK_GAIN = 3;
/** Amount, then delay. */
const FEEDBACK = 4;
/** The numbers of grit come after these. */
const GRIT = FIELDS.length;
/** Time constant by which the whole sound's feedback ends after the last layer. */
const FEEDBACK_ENDS_S = 0.06;

// Places in `last`: bass gain with and without ducking, kick gain, ceiling.
const DUCKED = 0;
const UNDUCKED = 1;
const KICK = 2;
const HELD_UNDER = 3;

function values({ grit, output, kick, feedback }: SoundDocument): number[] {
  return [
    output.levelDb,
    output.ceilingDb,
    kick.levelDb,
    kick.source === 'wav' && kick.wav ? kick.wav.gainDb : 0,
    feedback.amountPct,
    feedback.delayMs,
    ...gritValues(grit),
  ];
}

/** Stems of the layers: none, each layer's share behind grit, or each dry, as it goes into it. */
export type Stems = 'none' | 'shares' | 'dry';

/** What a mix is given where there is any. */
export interface MixExtras {
  /** What movers hear. */
  readonly heard?: Heard | null;
  /** Whether all that moves is to be seen. */
  readonly watched?: boolean;
  /** What units hear; whoever owns it plays it, block by block, before the mix is asked for. */
  readonly overheard?: Overheard | null;
}

/**
 * From layers and kick to the sum: clean path and bands (`GritStage`), level, ducking, ceiling. All ways are
 * delayed alike, so that bass and kick stay in
 * step.
 */
export class Mix {
  readonly latencyFrames: number;
  readonly kickLeft = new Float64Array(BLOCK);
  readonly kickRight: Float64Array;
  readonly bassLeft = new Float64Array(BLOCK);
  readonly bassRight: Float64Array;
  /** The backing parts, summed. */
  readonly backLeft = new Float64Array(BLOCK);
  readonly backRight = new Float64Array(BLOCK);
  /** The bass before ducking and ceiling, in mono: (L+R)/2. */
  readonly bassBefore = new Float64Array(BLOCK);
  /** Ways of the layers' stems. */
  readonly stems: StemTaps;
  private readonly clean = new Float64Array(BLOCK);
  private readonly grit: GritStage;
  /** Whether links carry any of grit's numbers that is no unit's: then all of it goes in control steps. */
  private gritMoves = false;
  private readonly ending: Ending;
  private readonly ducker: Ducker;
  /** Where ducking acts on more than the level; null where it does not. */
  private readonly duckStage: DuckStage | null;
  private duck: Duck;
  readonly hasBacking: boolean;
  /** −1 where the bass is turned about, else 1. */
  private readonly sign = Float64Array.of(1);
  /** Frames by which bass and kick come late behind grit: the slowest layer's chain, and grit's own delay. */
  readonly frontLate: number;
  /** For layers that come sooner than the slowest. */
  private readonly waits: readonly (LayerWait | null)[];
  /** Place in its bank of what a target means. */
  readonly slotOf: ReturnType<typeof slotsOf>;
  readonly movers: MoverBank;
  readonly bank: ParameterBank;
  private readonly layout: GritLayout;
  /** The fields of its bank. */
  private readonly fields: readonly string[];
  /** Whether each of its units is there, in the order of `slots`. */
  private readonly switches: Switches;
  private readonly slots: readonly UnitSlot[];
  private readonly slotIds: readonly string[];
  /** What units hear. */
  private readonly hears = {
    hz: new Float64Array(1),
    tempo: new Float64Array(1),
    ahead: Float64Array.of(Infinity),
  };
  private marks: NoteMarks = NO_MARKS;
  private writer: MixWriter | null = null;
  private followed: MixReader | null = null;
  private a4Hz = 440;
  private readonly heard: Heard | null;
  /** Ticks a frame; the bass's own peak of late; frames of a control step; notes held. */
  private perFrame: Float64Array;
  private readonly peak = new Float64Array(1);
  private stepFrames = STEP;
  private steps: ControlSteps;
  private readonly held = new Int32Array(1);
  /** The peak of this block, which movers hear in the next. */
  private readonly nextPeak = new Float64Array(1);
  /** At the end of the last step; see `DUCKED` and what follows it. */
  private readonly last = new Float64Array(4);
  /** The same at its start. */
  private readonly before = new Float64Array(4);
  /** The numbers for which those were computed. */
  private readonly seen = new Float64Array(FIELDS.length).fill(NaN);
  private readonly cleanPath: boolean;
  /** Whether the bass differs between the sides behind grit. */
  readonly stereo: boolean;
  /** The whole sound's way back to itself; null where it is off. */
  private readonly feedback: FeedbackLoop | null;
  private readonly sounding = new Float64Array(1);
  private sounds = false;

  /** Where bass or kick cannot differ between the sides, their right block is their left one. */
  constructor(
    document: SoundDocument,
    private readonly stereoIn: boolean,
    readonly kickStereo: boolean,
    private readonly sampleRateHz: number,
    seed: number,
    stems: Stems,
    hardHoldMs: number,
    { heard = null, watched = false, overheard = null }: MixExtras = {},
  ) {
    this.cleanPath = document.grit.cleanPath.on;
    this.layout = new GritLayout(document.grit, GRIT);
    this.fields = [...FIELDS, ...this.layout.fields];
    this.slotOf = slotsOf(null, this.fields);
    this.takeGround(document);
    const start: UnitStart = {
      sampleRateHz,
      seed,
      stereo: stereoIn,
      hears: { ...this.hears, side: (name) => overheard?.block(name) ?? null },
    };
    const layersLate = document.layers.map(({ chain }) => chainLate(chain, sampleRateHz));
    const slowest = Math.max(...layersLate);
    this.waits = layersLate.map((late) => (late < slowest ? new LayerWait(slowest - late) : null));
    this.grit = new GritStage(document.grit, start, this.layout, slowest);
    this.stereo = this.grit.stereo || this.grit.after.stereo;
    this.frontLate = slowest + this.grit.lateFrames;
    const slots = this.grit.chains.flatMap((chain) => [...chain.slots]);
    this.slotIds = slots.map(([id]) => id);
    this.slots = slots.map(([, slot]) => slot);
    this.feedback = document.feedback.on ? new FeedbackLoop(document.feedback.way, sampleRateHz) : null;
    const { stereo } = this;
    this.kickRight = kickStereo ? new Float64Array(BLOCK) : this.kickLeft;
    this.bassRight = stereo ? new Float64Array(BLOCK) : this.bassLeft;
    this.ending = new Ending(this, sampleRateHz, {
      stereo,
      kickStereo,
      backing: document.backing.length > 0,
    });
    const end = this.ending.delayFrames;
    this.latencyFrames = this.frontLate + end;
    this.duck = document.duck;
    this.sign[0] = document.lock.invert ? -1 : 1;
    this.hasBacking = document.backing.length > 0;
    this.ducker = new Ducker(document.duck, sampleRateHz, hardHoldMs, this.frontLate);
    this.duckStage =
      document.duck.on && (document.duck.hard || document.duck.acts !== 'level')
        ? new DuckStage(document.duck, sampleRateHz)
        : null;
    this.heard = heard;
    this.perFrame = ticksPerFrame(document, sampleRateHz);
    this.movers = new MoverBank(document, { sampleRateHz, seed, layerId: null, all: watched });
    this.stepFrames = stepFor(this.movers.fastestHz, sampleRateHz);
    this.bank = new ParameterBank([...ROWS, ...this.layout.rows], values(document), sampleRateHz);
    this.bank.begin(bankLinks(document, this.slotOf), bankLanes(document, this.slotOf), this.movers);
    this.switches = new Switches(this.slotIds, sampleRateHz);
    this.takeSwitches(document);
    this.switches.begin(this.movers);
    this.steps = this.stepsOf();
    this.findMoved();
    const tapped = stems === 'none' ? [] : document.layers;
    this.stems = new StemTaps(
      document.grit,
      start,
      tapped.map((layer) => ({
        sub: layer.role === 'sub',
        // What comes back of all layers may differ between the sides.
        stereo: stereoIn && (document.feedback.on || isStereo(document, layer)),
        layout: this.layout,
        shares: stems === 'shares',
        lateFrames: this.grit.lateFrames,
        endFrames: end,
        duck: this.duckStage ? document.duck : null,
      })),
      stereo,
    );
    this.measureGains();
  }

  set(document: SoundDocument): void {
    this.duck = document.duck;
    this.sign[0] = document.lock.invert ? -1 : 1;
    this.seen[LEVEL] = NaN;
    this.ducker.set(document.duck);
    this.duckStage?.set(document.duck);
    const moved = this.movers.set(document);
    const before = this.stepFrames;
    this.perFrame = ticksPerFrame(document, this.sampleRateHz);
    this.stepFrames = stepFor(this.movers.fastestHz, this.sampleRateHz);
    this.bank.setTargets(values(document));
    this.bank.setLinks(
      bankLinks(document, this.slotOf),
      bankLanes(document, this.slotOf),
      this.movers,
      moved,
    );
    this.takeGround(document);
    this.grit.set(document.grit);
    this.takeSwitches(document);
    if (before !== this.stepFrames) this.steps = this.stepsOf();
    this.findMoved();
  }

  private stepsOf(): ControlSteps {
    return new ControlSteps(this.fields.length, this.slots.length, this.stepFrames);
  }

  /** Finds what of grit links carry. */
  private findMoved(): void {
    const { bank, fields } = this;
    this.gritMoves = fields.some(
      (field, i) => i >= GRIT && !field.startsWith('units.') && bank.carries(i, i + 1),
    );
    for (const chain of this.grit.chains) chain.takeMoved((at, count) => bank.carries(at, at + count));
  }

  private takeGround({ ground }: SoundDocument): void {
    this.hears.tempo[0] = ground.tempoBpm;
    this.a4Hz = ground.a4Hz;
  }

  private takeSwitches(document: SoundDocument): void {
    const { slotIds } = this;
    this.switches.set(
      slotIds.map(() => true),
      switchRules(document, (what) => (what.what === 'unit' ? slotIds.indexOf(what.id) : -1)),
    );
  }

  /** Takes where the notes of the line begin. */
  takeMarks(marks: NoteMarks): void {
    this.marks = marks;
  }

  /** Has what grit and ceiling give written down while stems are asked for. */
  writeTo(writer: MixWriter): void {
    this.writer = writer;
  }

  /**
   * From now on only the stems are mixed: what grit and ceiling give is not found here, but read, while stems are asked for,
   * where another mix wrote it down.
   */
  follow(reader: MixReader): void {
    this.followed = reader;
  }

  /** Whether it mixes what is heard, and not the stems alone. */
  get whole(): boolean {
    return this.followed === null;
  }

  /** The chain of grit at a place; null where it is left out. */
  chainAt(place: UnitPlace): UnitChain | null {
    if (place.in === 'clean path') return this.grit.cleanChain;
    if (place.in === 'after') return this.grit.after;
    const band = this.grit.bands.bands.find(({ setup }) => place.in === 'band' && setup.id === place.id);
    return band?.chain ?? null;
  }

  copyFrom(other: Mix): void {
    this.grit.copyFrom(other.grit);
    this.ending.copyFrom(other.ending);
    this.ducker.copyFrom(other.ducker);
    if (other.duckStage) this.duckStage?.copyFrom(other.duckStage);
    this.movers.copyFrom(other.movers);
    this.bank.copyFrom(
      other.bank,
      this.fields.map((field) => other.fields.indexOf(field)),
      this.movers,
    );
    this.switches.copyFrom(other.switches);
    this.peak.set(other.peak);
    this.held.set(other.held);
    this.last.set(other.last);
    this.hears.hz.set(other.hears.hz);
    this.waits.forEach((wait, l) => {
      const from = other.waits.at(l);
      if (from) wait?.copyFrom(from);
    });
    if (other.feedback) this.feedback?.copyFrom(other.feedback);
    else this.feedback?.comeIn();
    this.sounding.set(other.sounding);
    this.seen.fill(NaN);
  }

  /** Gain of the ducking at the end of the last step, whatever it acts on. */
  get ducking(): number {
    return duckGain(this.duck, this.ducker.share[0]);
  }

  /** Ducking begins for a hit. */
  beginDuck(): void {
    this.ducker.hit();
  }

  /** The loop comes round: a bounce of it begins and ends here. */
  comeRound(): void {
    this.ending.cut(this.frontLate);
  }

  /** A note begins in some layer; see `LayerPlayer.noteOn`. */
  noteOn(
    source: number,
    pitch: number,
    velocity: number,
    tie: boolean,
    accent: number,
    rate: number,
    number: number,
  ): void {
    const { note } = this.movers.inputs;
    note[PLAYED_PITCH] = pitch;
    this.hears.hz[0] = noteToHz(pitch, this.a4Hz);
    note[PLAYED_VELOCITY] = velocity;
    note[PLAYED_ACCENT] = accent;
    note[PLAYED_RATE] = rate;
    note[PLAYED_NUMBER] = number;
    note[PLAYED_TIE] = tie && this.held[0] > 0 ? 1 : 0;
    this.held[0]++;
    this.movers.noteOn(source, number >= 0);
  }

  noteOff(): void {
    if (this.held[0] > 0) this.held[0]--;
    if (this.held[0] === 0) this.movers.noteOff();
  }

  /** Nothing is held any more. */
  releaseAll(): void {
    this.held[0] = 0;
    this.movers.noteOff();
  }

  /** The kick strikes, for the `number`-th time in the loop. */
  kick(number: number): void {
    this.movers.struck(BY_KICK, number);
  }

  /** Computes the gains where the numbers stand; only those whose numbers changed. */
  private measureGains(): void {
    const { last, seen, ducker, bank } = this;
    const { value } = bank;
    if (value[LEVEL] !== seen[LEVEL]) last[UNDUCKED] = this.sign[0] * dbToGain(value[LEVEL]);
    if (value[KICK_LEVEL] !== seen[KICK_LEVEL] || value[KICK_GAIN] !== seen[KICK_GAIN])
      last[KICK] = dbToGain(value[KICK_LEVEL] + value[KICK_GAIN]);
    if (value[CEILING] !== seen[CEILING]) last[HELD_UNDER] = dbToGain(value[CEILING]);
    last[DUCKED] =
      ducker.share[0] === 0 || this.duckStage
        ? last[UNDUCKED]
        : last[UNDUCKED] * duckGain(this.duck, ducker.share[0]);
    for (let i = 0; i < seen.length; i++) seen[i] = value[i];
  }

  /** Moves the numbers on over a block, in control steps where movers run. */
  private control(frames: number, place: number): void {
    const { bank, movers, heard, perFrame, switches, steps } = this;
    const stepFrames = movers.runs ? this.stepFrames : frames;
    steps.begin(switches.level);
    for (let from = 0; from < frames; from += stepFrames) {
      const to = from + stepFrames < frames ? from + stepFrames : frames;
      if (movers.runs) {
        movers.stand(place < 0 ? place : place + from, to - from, perFrame);
        if (heard && movers.hears && from % STEP === 0) movers.hear(heard, from / STEP);
        if (movers.hearsSelf) movers.hearSelf(this.peak);
        movers.step(to - from);
      } else movers.wait(to - from);
      const still = bank.still && switches.still;
      bank.step(to - from, movers);
      switches.step(to - from, movers);
      steps.add(to, bank.value, switches.level, still && bank.still && switches.still);
    }
  }

  /** Runs grit, and each layer's way through it, over a block of which the control steps were found. */
  private runGrit(frames: number, place: number, sub: boolean): void {
    const { steps, stems, bassLeft, bassRight, followed } = this;
    if (!followed) this.grit.await(this.marks, place);
    if (steps.still && !this.gritMoves)
      this.runStretch(0, frames, sub, 0, steps.count, this.bank.value, steps);
    else
      for (let k = 0, from = 0; k < steps.count; from = steps.ends[k++])
        this.runStretch(from, steps.ends[k], sub, k, k + 1, steps.rows[k], null);
    if (!stems.asked) return;
    followed?.bass(bassLeft, bassRight, frames);
    this.writer?.bass(bassLeft, bassRight, frames);
  }

  /** Runs the samples from `from` up to `to`, from one end of a control step to another; no grit where another mix ran it. */
  private runStretch(
    from: number,
    to: number,
    sub: boolean,
    first: number,
    last: number,
    numbers: Float64Array,
    steps: ControlSteps | null,
  ): void {
    if (!this.followed) {
      this.stand(first, last);
      this.grit.process(this.bassLeft, this.bassRight, this.clean, sub, from, to, numbers, steps);
    }
    this.stems.shape(from, to, numbers);
  }

  /** Holds the mix under the ceiling, as the one that is followed was held; says whether that acted. */
  private end(frames: number): boolean {
    const { ending, followed, stems, writer } = this;
    if (followed) return stems.asked && followed.ceiling(ending.gain, frames);
    const acts = ending.process(this.last, HELD_UNDER, frames);
    if (stems.asked) writer?.ceiling(acts ? ending.gain : null, frames);
    return acts;
  }

  /** Says how far each unit is there from one end of a control step to another. */
  private stand(first: number, last: number): void {
    const { slots, steps } = this;
    for (let s = 0; s < slots.length; s++) {
      slots[s].there[0] = steps.levels[first][s];
      slots[s].there[1] = steps.levels[last][s];
    }
  }

  /** Takes down the peak of the bass before the clip, for movers that follow it. */
  private listen(frames: number): void {
    const { bassLeft, bassRight, nextPeak: peak } = this;
    peak[0] = 0;
    for (let i = 0; i < frames; i++) {
      const l = bassLeft[i] < 0 ? -bassLeft[i] : bassLeft[i];
      const r = bassRight[i] < 0 ? -bassRight[i] : bassRight[i];
      if (l > peak[0]) peak[0] = l;
      if (r > peak[0]) peak[0] = r;
    }
  }

  /**
   * Mixes the next `frames` samples of the layers, the kick and the backing parts into this mix's own blocks;
   * `side` is what ducking follows.
   */
  process(
    layers: readonly LayerBlock[],
    kick: Block,
    backing: readonly Block[],
    side: Block | null,
    frames: number,
    place = NOWHERE,
  ): void {
    const { last } = this;
    for (let i = 0; i < last.length; i++) this.before[i] = last[i];
    if (side) this.ducker.follow(side.left, side.right, side.silent, frames);
    const sub = this.gather(layers, frames);
    if (this.movers.hearsSelf) this.listen(frames);
    if (this.feedback) this.feedBack(frames);
    this.control(frames, place);
    this.runGrit(frames, place, sub);
    this.peak[0] = this.nextPeak[0];
    this.ducker.step(frames);
    this.measureGains();
    this.stems.shareRest(this.bassLeft, this.bassRight, frames);
    if (this.whole) this.soundOut(kick, backing, frames);
    const acts = this.end(frames);
    this.stems.finish(
      this.before[DUCKED],
      last[DUCKED],
      this.ducker.share,
      acts ? this.ending.gain : null,
      frames,
    );
  }

  /** What is heard beside and behind the bass: level and ducking, kick, backing parts. */
  private soundOut(kick: Block, backing: readonly Block[], frames: number): void {
    this.level(frames);
    if (this.duckStage)
      this.duckStage.process(this.bassLeft, this.bassRight, this.stereo, frames, this.ducker.share);
    this.takeKick(kick, frames);
    if (this.hasBacking) this.takeBacking(backing, frames);
  }

  /** Sums the layers, and Sub once more in mono for the clean path; says whether there is any. */
  private gather(layers: readonly LayerBlock[], frames: number): boolean {
    const { bassLeft, bassRight, clean, stereoIn: stereo, cleanPath } = this;
    // The stems alone need the sum only where something comes back of it.
    const sums = this.whole || this.feedback !== null || this.movers.hearsSelf;
    let sounds = false;
    let sub = false;
    for (let l = 0; l < layers.length; l++) {
      const wait = this.waits[l];
      const { silent, left, right } = wait ? wait.take(layers[l], frames) : layers[l];
      const { role } = layers[l];
      this.stems.take(l, left, right, silent, frames);
      if (silent || !sums) continue;
      // The first that sounds is copied, the others are added: that saves filling the blocks with zeros.
      if (sounds) {
        for (let i = 0; i < frames; i++) bassLeft[i] += left[i];
        if (stereo) for (let i = 0; i < frames; i++) bassRight[i] += right[i];
      } else {
        for (let i = 0; i < frames; i++) bassLeft[i] = left[i];
        if (stereo) for (let i = 0; i < frames; i++) bassRight[i] = right[i];
      }
      sounds = true;
      if (!cleanPath || role !== 'sub') continue;
      if (sub) for (let i = 0; i < frames; i++) clean[i] += 0.5 * (left[i] + right[i]);
      else for (let i = 0; i < frames; i++) clean[i] = 0.5 * (left[i] + right[i]);
      sub = true;
    }
    this.sounds = sounds;
    if (!sounds) {
      for (let i = 0; i < frames; i++) bassLeft[i] = 0;
      if (stereo) for (let i = 0; i < frames; i++) bassRight[i] = 0;
    }
    return sub;
  }

  /** The bass comes back to itself before crossover and clip. */
  private feedBack(frames: number): void {
    // Once no layer sounds any more it dies away: a loop that sounds by itself would never end.
    this.sounding[0] = this.sounds
      ? 1
      : this.sounding[0] * Math.exp(-frames / (FEEDBACK_ENDS_S * this.sampleRateHz));
    const { bassLeft, bassRight, stereoIn: stereo } = this;
    this.stems.beforeFeedback(bassLeft, bassRight);
    this.feedback!.process(bassLeft, bassRight, 0, frames, this.bank.value, FEEDBACK, this.sounding, stereo);
    this.stems.shareFeedback(bassLeft, bassRight, frames);
  }

  /** Sets the level with ducking; keeps the mono of it before ducking. */
  private level(frames: number): void {
    const { bassLeft, bassRight, bassBefore, stereo, last } = this;
    const levelStep = (last[DUCKED] - this.before[DUCKED]) / frames;
    const beforeStep = (last[UNDUCKED] - this.before[UNDUCKED]) / frames;
    let level = this.before[DUCKED];
    let before = this.before[UNDUCKED];
    for (let i = 0; i < frames; i++) {
      level += levelStep;
      before += beforeStep;
      const left = bassLeft[i];
      if (stereo) {
        const right = bassRight[i];
        bassBefore[i] = before * 0.5 * (left + right);
        bassRight[i] = level * right;
      } else bassBefore[i] = before * left;
      bassLeft[i] = level * left;
    }
  }

  private takeBacking(backing: readonly Block[], frames: number): void {
    const { backLeft, backRight } = this;
    for (let i = 0; i < frames; i++) backLeft[i] = backRight[i] = 0;
    for (let b = 0; b < backing.length; b++) {
      const { silent, left, right } = backing[b];
      if (silent) continue;
      for (let i = 0; i < frames; i++) {
        backLeft[i] += left[i];
        backRight[i] += right[i];
      }
    }
  }

  private takeKick(kick: Block, frames: number): void {
    const gain0 = this.before[KICK];
    const { kickLeft, kickRight, last, kickStereo } = this;
    const step = (last[KICK] - gain0) / frames;
    let gain = gain0;
    if (kick.silent) {
      for (let i = 0; i < frames; i++) kickLeft[i] = 0;
      if (kickStereo) for (let i = 0; i < frames; i++) kickRight[i] = 0;
      return;
    }
    for (let i = 0; i < frames; i++) {
      gain += step;
      kickLeft[i] = gain * kick.left[i];
      if (kickStereo) kickRight[i] = gain * kick.right[i];
    }
  }
}
