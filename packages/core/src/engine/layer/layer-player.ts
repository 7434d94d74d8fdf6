import { FILTERS, type Layer, type SoundDocument } from '../../document/index.js';
import {
  BY_KICK,
  NO_RATE,
  PLAYED_ACCENT,
  PLAYED_NUMBER,
  PLAYED_PITCH,
  PLAYED_RATE,
  PLAYED_TIE,
  PLAYED_VELOCITY,
} from '../../kinds/movers/index.js';
import { bent, BLOCK, Random, STEP } from '../../dsp/index.js';
import type { ChainTape } from '../units/chain-tape.js';
import { dbToGain } from '../../units/index.js';
import { ARP_END, ARP_NOTE, Arpeggio } from './arpeggio.js';
import { HeldNotes } from './held-notes.js';
import { carriedDrop, carriesKick, MOST_CARRIED_MS } from './carry.js';
import { LayerChain } from './layer-chain.js';
import { LayerLayout, layerValues } from './layer-layout.js';
import { carriedApart, isStereo, linkedIn } from './layer-sides.js';
import { cyclesPerDegree, turnsByPitch } from './turns.js';
import { bankLanes, bankLinks, slotsOf } from '../movers/bank-links.js';
import type { Heard } from '../movers/heard.js';
import { MoverBank, ticksPerFrame } from '../movers/mover-bank.js';
import { stepFor } from '../movers/step-for.js';
import type { NoteMarks } from '../units/note-marks.js';
import { Switches, switchRules } from '../movers/switches.js';
import { ParameterBank } from '../movers/parameter-bank.js';
import type { Assets } from '../base/recording.js';
import { TurningVoice } from './turning-voice.js';
import {
  ASKED_FROM,
  ASKED_NUMBERS,
  ASKED_PITCH,
  ASKED_VELOCITY,
  SIDE_LEFT_0,
  SIDE_LEFT_1,
  SIDE_RIGHT_0,
  SIDE_RIGHT_1,
  type VoiceContext,
} from './voice.js';

/** Live notes count from here, so that they never meet a note of the line. */
export const LIVE_SOURCE = 10_000_000;
const UNITY = Float64Array.of(1, 1, 1, 1);
/** No place in the loop: the line does not run. */
export const NOWHERE = -1;
/** What a voice of an arpeggio is said to play. */
const ARPEGGIO_SOURCE = -2;
const NOBODY = -1;
// Places in `last`: pitch of the last note, below 0 before the first; gains of the two sides at the end of
// the last step; level, pan and switch for which the gains after them were computed.
const LAST_PITCH = 0;
const GAIN_LEFT = 1;
const GAIN_RIGHT = 2;
const FOR_LEVEL = 3;
const FOR_PAN = 4;
const FOR_ON = 5;
const TO_LEFT = 6;
const TO_RIGHT = 7;
const FOR_LEVEL_RIGHT = 8;

/** What a layer is played with. */
export interface LayerPlayerOptions {
  readonly sampleRateHz: number;
  readonly seed: number;
  readonly assets: Assets;
  /** The kick and the backing parts, where movers listen to them. */
  readonly heard?: Heard | null;
}

/**
 * A layer playing: one note at a time or several, as written, the lowest alone, or as an arpeggio. Every
 * layer runs its movers itself, so that a layer can
 * be rendered alone and sound exactly as it does among the others.
 */
export class LayerPlayer {
  readonly left = new Float64Array(BLOCK);
  /** The same block as `left` where the two sides cannot differ. */
  readonly right: Float64Array;
  readonly stereo: boolean;
  /** Whether nothing sounds; the blocks are then not written. */
  silent = true;
  private readonly layout: LayerLayout;
  readonly movers: MoverBank;
  readonly bank: ParameterBank;
  /** Place in its bank of what a target means. */
  readonly slotOf: ReturnType<typeof slotsOf>;
  private readonly units: LayerChain;
  /** Whether it is on, then each of its filters, then each of its units. */
  private readonly switches: Switches;
  private readonly heard: Heard | null;
  /** Ticks a frame; its own peak of the last step; frames of a control step. */
  private perFrame: Float64Array;
  private readonly peak = new Float64Array(1);
  private stepFrames = STEP;
  private readonly random: Random;
  private readonly voices: TurningVoice[];
  /** Which note each voice plays. */
  private readonly plays: Int32Array;
  private readonly context: VoiceContext;
  private readonly held = new HeldNotes();
  private readonly arpeggio: Arpeggio | null;
  /** The voice that spoke last. */
  private front = 0;
  /** See `LAST_PITCH` and what follows it. */
  private readonly last = Float64Array.of(-1, 0, 0, NaN, NaN, NaN, 0, 0, NaN);
  /** Whether its oscillator carries the kick's drop. */
  carries: boolean;
  /** That drop; see `carriedDrop`. */
  private readonly drop = new Float64Array(MOST_CARRIED_MS + 2);
  /** The A4 that its voices were set for. */
  private tunedHz: number;
  private turn: number[];
  private turnOf: Float64Array;
  private readonly phases = new Float64Array(3);
  private readonly asked = new Float64Array(ASKED_NUMBERS);
  private readonly gains = new Float64Array(4);
  private readonly scratchLeft = new Float64Array(BLOCK);
  private readonly scratchRight = new Float64Array(BLOCK);

  constructor(
    document: SoundDocument,
    private layer: Layer,
    { sampleRateHz, seed, assets, heard = null }: LayerPlayerOptions,
  ) {
    const place = document.layers.indexOf(layer);
    this.layout = new LayerLayout(layer);
    this.heard = heard;
    this.slotOf = slotsOf(layer.id, this.layout.fields);
    this.perFrame = ticksPerFrame(document, sampleRateHz);
    this.movers = new MoverBank(document, { sampleRateHz, seed, layerId: layer.id });
    this.stepFrames = stepFor(this.movers.fastestHz, sampleRateHz);
    this.bank = new ParameterBank(
      this.layout.rows,
      layerValues(layer),
      sampleRateHz,
      carriedApart(document, layer),
    );
    this.bank.begin(bankLinks(document, this.slotOf), bankLanes(document, this.slotOf), this.movers);
    this.units = new LayerChain(document, layer, this.layout.units, { sampleRateHz, seed, assets });
    this.switches = new Switches(
      ['layer', ...layer.filters.map((_, f) => `filter ${f}`), ...this.units.ids],
      sampleRateHz,
    );
    this.takeSwitches(document, layer);
    this.switches.begin(this.movers);
    this.random = new Random(seed, 10 + place);
    this.stereo = isStereo(document, layer);
    this.right = this.stereo ? new Float64Array(BLOCK) : this.left;
    this.context = {
      sampleRateHz,
      seed,
      stream: 1000 * (place + 1),
      a4Hz: document.ground.a4Hz,
      assets,
      layout: this.layout,
      stereo: this.stereo,
      linked: linkedIn(document, layer),
      chosen: layer.tones.map(() => Int32Array.of(NOBODY)),
      drop: this.drop,
      right: this.bank.right,
      on: this.switches.level,
    };
    this.tunedHz = document.ground.a4Hz;
    this.carries = carriesKick(document, layer);
    if (this.carries) this.drop.set(carriedDrop(document));
    const several = layer.voice.notes === 'several' && layer.plays.as !== 'lowest';
    // One voice more than may sound: the one that gives way needs a moment.
    this.voices = Array.from(
      { length: several ? layer.voice.voices + 1 : 2 },
      (_, v) => new TurningVoice(layer, { ...this.context, stream: this.context.stream + 20 * v }),
    );
    this.plays = new Int32Array(this.voices.length).fill(NOBODY);
    this.arpeggio =
      layer.plays.as === 'arpeggio'
        ? new Arpeggio(layer.plays, document.ground.tempoBpm, sampleRateHz, seed, 60 + place)
        : null;
    this.turn = cyclesPerDegree(document, layer);
    this.turnOf = turnsByPitch(document);
    this.takeGains();
  }

  private takeSwitches(document: SoundDocument, layer: Layer): void {
    const place = document.layers.findIndex(({ id }) => id === layer.id);
    this.switches.set(
      // A filter that is off is not built: only macros switch one while it is there.
      [layer.on, ...layer.filters.map(() => true), ...this.units.ids.map(() => true)],
      switchRules(document, (what) =>
        what.what === 'layer' && what.layer === place
          ? 0
          : what.what === 'filter' && what.layer === place
            ? 1 + what.filter
            : what.what === 'unit' && this.units.ids.includes(what.id)
              ? 1 + FILTERS + this.units.ids.indexOf(what.id)
              : -1,
      ),
    );
  }

  get id(): string {
    return this.layer.id;
  }

  get role(): Layer['role'] {
    return this.layer.role;
  }

  private get several(): boolean {
    return this.voices.length > 2;
  }

  /** Takes other numbers for a document of the same structure. */
  set(document: SoundDocument, layer: Layer): void {
    const { a4Hz } = document.ground;
    const moved = this.movers.set(document);
    this.stepFrames = stepFor(this.movers.fastestHz, this.context.sampleRateHz);
    this.perFrame = ticksPerFrame(document, this.context.sampleRateHz);
    this.bank.setLinks(
      bankLinks(document, this.slotOf),
      bankLanes(document, this.slotOf),
      this.movers,
      moved,
    );
    this.takeSwitches(document, layer);
    // Most edits leave most layers the same objects; going through their voices takes the audio thread's time.
    if (layer !== this.layer || a4Hz !== this.tunedHz) {
      this.layer = layer;
      this.tunedHz = a4Hz;
      this.bank.setTargets(layerValues(layer));
      for (const voice of this.voices) voice.set(layer, a4Hz);
    }
    this.units.set(document, layer);
    this.arpeggio?.set(layer.plays, document.ground.tempoBpm);
    this.turn = cyclesPerDegree(document, layer);
    this.turnOf = turnsByPitch(document);
    this.carries = carriesKick(document, layer);
    if (this.carries) this.drop.set(carriedDrop(document));
  }

  /** Goes on from where another player of the same layer stands. */
  copyFrom(other: LayerPlayer): void {
    this.movers.copyFrom(other.movers);
    this.bank.copyFrom(
      other.bank,
      this.layout.fields.map((field) => other.layout.fields.indexOf(field)),
      this.movers,
    );
    this.random.copyFrom(other.random);
    for (let v = 0; v < this.voices.length && v < other.voices.length; v++) {
      this.voices[v].copyFrom(other.voices[v]);
      this.plays[v] = other.plays[v];
    }
    if (other.front < this.voices.length) this.front = other.front;
    else {
      this.voices[0].copyFrom(other.voices[other.front]);
      this.plays[0] = other.plays[other.front];
      this.front = 0;
    }
    this.held.copyFrom(other.held);
    if (other.arpeggio) this.arpeggio?.copyFrom(other.arpeggio);
    this.last.set(other.last);
    this.peak.set(other.peak);
    this.switches.copyFrom(other.switches);
    this.units.copyFrom(other.units);
  }

  /** Writes down what its units do from now on, over so many frames. */
  record(frames: number): ChainTape {
    return this.units.record(frames);
  }

  /** Takes where the notes of the line begin. */
  takeMarks(marks: NoteMarks): void {
    this.units.marks = marks;
  }

  /**
   * A note begins; `accent` is 1 for an accent, `rate` its own wobble rate in beats (`NO_RATE` for none), `number`
   * its number in the line (below 0 where it is not of the line).
   */
  noteOn(
    source: number,
    pitch: number,
    velocity: number,
    tie: boolean,
    accent = 0,
    rate = NO_RATE,
    number = -1,
  ): void {
    const { held, arpeggio } = this;
    if (arpeggio && held.count === 0) arpeggio.begin();
    held.add(source, pitch, velocity, accent, rate, number);
    if (arpeggio) return;
    if (this.several) this.speak(source, pitch, velocity, tie, tie && this.voices[this.front].held);
    else if (held.speaking(this.priority) === held.count - 1)
      this.speak(
        source,
        pitch,
        velocity,
        tie,
        (tie || this.layer.voice.trigger === 'legato') && this.voices[this.front].held,
      );
  }

  private get priority(): 'last' | 'lowest' | 'highest' {
    if (this.layer.plays.as === 'lowest') return 'lowest';
    return this.layer.voice.notes === 'several' ? 'last' : this.layer.voice.notes;
  }

  /** Takes up the kick's drop from so many ms on, where it carries it and sounds. */
  carryKick(fromMs: number): void {
    if (!this.carries) return;
    for (let v = 0; v < this.voices.length; v++) if (this.voices[v].held) this.voices[v].carryKick(fromMs);
  }

  /**
   * Finds where in its cycle each tone of a note of a pitch begins. One whose phase is free begins anywhere
   * as a note begins, and goes on (below 0) where it is only restarted.
   */
  private findPhases(pitch: number, begins: boolean): void {
    const { tones } = this.layer;
    for (let t = 0; t < tones.length; t++) {
      if (!tones[t].on) continue;
      const free = tones[t].startPhase === 'free';
      const phase =
        tones[t].startPhaseDeg / 360 +
        this.turn[t] * this.turnOf[(pitch + 0.5) | 0] +
        (free && begins ? this.random.next() : 0) +
        64;
      this.phases[t] = free && !begins ? -1 : phase - Math.floor(phase);
    }
  }

  /** Begins the phase of every held note anew, as at a hit of the kick, where the layer is to do so. */
  restart(): void {
    if (this.layer.voice.restart === 'note') return;
    for (let v = 0; v < this.voices.length; v++) {
      if (!this.voices[v].held) continue;
      this.findPhases(this.voices[v].pitchTo, false);
      this.voices[v].restart(this.phases, this.bank.value);
    }
  }

  /** Tells the movers of the note that was held last, or that the arpeggio has come to. */
  private tellMovers(source: number, goesOn: boolean): void {
    const { held, movers, asked, arpeggio } = this;
    const { note } = movers.inputs;
    const at = arpeggio ? arpeggio.from[0] : held.find(source);
    note[PLAYED_PITCH] = asked[ASKED_PITCH];
    note[PLAYED_VELOCITY] = asked[ASKED_VELOCITY];
    note[PLAYED_ACCENT] = at < 0 ? 0 : held.accent[at];
    note[PLAYED_RATE] = at < 0 ? NO_RATE : held.rate[at];
    // A run of an arpeggio steps on with each of its notes.
    note[PLAYED_NUMBER] = at < 0 || arpeggio ? -1 : held.number[at];
    note[PLAYED_TIE] = goesOn ? 1 : 0;
    movers.noteOn(source, note[PLAYED_NUMBER] >= 0);
  }

  /** The kick strikes, for the `number`-th time in the loop. */
  kick(number: number, velocity: number): void {
    this.movers.struck(BY_KICK, number);
    this.units.overheard.hit(velocity);
  }

  /** A backing part begins, by its place. */
  beginPart(part: number): void {
    this.units.overheard.begin(part);
  }

  /** Lets what its units listen to fade. */
  stop(): void {
    this.units.overheard.stop();
  }

  /** A note begins, in the voice that speaks or in another. */
  private speak(source: number, pitch: number, velocity: number, tie: boolean, goesOn: boolean): void {
    const { voice } = this.layer;
    const { movers, last, phases, voices, plays, asked } = this;
    asked[ASKED_PITCH] = pitch;
    asked[ASKED_VELOCITY] = velocity;
    movers.touch[0] =
      voice.velocityEnvelopePct === 0
        ? 1
        : 1 - (voice.velocityEnvelopePct / 100) * (1 - bent(velocity / 127, voice.velocityBend));
    this.tellMovers(source, goesOn);
    if (goesOn) {
      voices[this.front].glideTo(asked);
      voices[this.front].touch(asked);
    } else {
      const glides = (tie || voice.glide === 'always') && last[LAST_PITCH] >= 0;
      asked[ASKED_FROM] = glides
        ? voices[this.front].active
          ? voices[this.front].pitch
          : last[LAST_PITCH]
        : pitch;
      this.front = this.freeVoice();
      this.findPhases(pitch, true);
      // What movers carry stands where it does as the note begins, not where it did before.
      this.bank.refresh(movers);
      voices[this.front].start(asked, phases, this.bank.value);
    }
    plays[this.front] = source;
    last[LAST_PITCH] = pitch;
  }

  /** The voice in which a note may begin; where one has to give way for it, it does. */
  private freeVoice(): number {
    const { voices } = this;
    if (!this.several) {
      voices[this.front].giveWay();
      return 1 - this.front;
    }
    let free = -1;
    let sounding = 0;
    let weakest = -1;
    for (let v = 0; v < voices.length; v++) {
      if (!voices[v].active) free = v;
      else {
        sounding++;
        // What has been let go is taken first, then what is softest.
        if (
          weakest < 0 ||
          (voices[v].held ? 1 : 0) + voices[v].level < (voices[weakest].held ? 1 : 0) + voices[weakest].level
        )
          weakest = v;
      }
    }
    if (sounding >= voices.length - 1 && weakest >= 0) voices[weakest].giveWay();
    return free >= 0 ? free : weakest;
  }

  noteOff(source: number): void {
    const { held, voices, plays, last } = this;
    const at = held.find(source);
    if (at < 0) return;
    const spoke = !this.several && held.speaking(this.priority) === at;
    held.removeAt(at);
    if (held.count === 0) this.movers.noteOff();
    if (this.arpeggio) return;
    if (this.several) {
      for (let v = 0; v < voices.length; v++) {
        if (plays[v] !== source) continue;
        voices[v].release();
        plays[v] = NOBODY;
      }
      return;
    }
    if (!spoke) return;
    if (held.count === 0) {
      voices[this.front].release();
      return;
    }
    const next = held.speaking(this.priority);
    this.asked[ASKED_PITCH] = held.pitch[next];
    this.asked[ASKED_VELOCITY] = held.velocity[next];
    voices[this.front].glideTo(this.asked);
    voices[this.front].touch(this.asked);
    this.tellMovers(held.source[next], true);
    last[LAST_PITCH] = held.pitch[next];
  }

  /** The sources of the notes held, oldest first. */
  heldSources(): number[] {
    return Array.from(this.held.source.subarray(0, this.held.count));
  }

  /** Ends every held note whose source lies in [from, to). */
  releaseSources(from: number, to: number): void {
    for (let i = this.held.count - 1; i >= 0; i--) {
      const source = this.held.source[i];
      if (source >= from && source < to) this.noteOff(source);
    }
  }

  /** Makes one table that its voices may soon want; says whether there was one. */
  prefetch(): boolean {
    return this.voices.some((voice) => voice.active && voice.prefetch());
  }

  private takeGains(): void {
    const { last, layout } = this;
    const { value, right } = this.bank;
    const level = value[layout.level];
    const levelRight = right[layout.level];
    const pan = value[layout.pan];
    const on = this.switches.level[0];
    if (
      level !== last[FOR_LEVEL] ||
      levelRight !== last[FOR_LEVEL_RIGHT] ||
      pan !== last[FOR_PAN] ||
      on !== last[FOR_ON]
    ) {
      last[FOR_LEVEL] = level;
      last[FOR_LEVEL_RIGHT] = levelRight;
      last[FOR_PAN] = pan;
      last[FOR_ON] = on;
      const gain = on * dbToGain(level);
      last[TO_LEFT] = gain * (1 - pan / 100);
      last[TO_RIGHT] = (levelRight === level ? gain : on * dbToGain(levelRight)) * (1 + pan / 100);
    }
    last[GAIN_LEFT] = last[TO_LEFT];
    last[GAIN_RIGHT] = last[TO_RIGHT];
  }

  private get sounds(): boolean {
    for (let v = 0; v < this.voices.length; v++) if (this.voices[v].active) return true;
    return this.arpeggio !== null && this.held.count > 0;
  }

  /**
   * Writes the next `frames` (at most `BLOCK`) samples to `left` and `right`, those of the loop from `place` on
   * (below 0 where it does not run); nothing where the layer is silent.
   */
  render(frames: number, place = NOWHERE): void {
    this.silent = !this.sounds && !this.units.rings;
    this.units.await(place, frames);
    const { stepFrames, heard, movers, perFrame } = this;
    for (let from = 0; from < frames; from += stepFrames) {
      const to = from + stepFrames < frames ? from + stepFrames : frames;
      if (movers.runs) {
        movers.stand(place < 0 ? place : place + from, to - from, perFrame);
        if (heard && movers.hears && from % STEP === 0) movers.hear(heard, from / STEP);
      }
      this.step(from, to);
      if (movers.hearsSelf) this.listen(from, to);
    }
  }

  /** Takes down its own peak, for movers that follow it. */
  private listen(from: number, to: number): void {
    const { left, right, stereo, peak } = this;
    peak[0] = 0;
    if (!this.silent) {
      for (let i = from; i < to; i++) {
        const l = left[i] < 0 ? -left[i] : left[i];
        if (l > peak[0]) peak[0] = l;
        const r = !stereo ? 0 : right[i] < 0 ? -right[i] : right[i];
        if (r > peak[0]) peak[0] = r;
      }
    }
    this.movers.hearSelf(peak);
  }

  private runArpeggio(frames: number): void {
    const { arpeggio, held } = this;
    if (!arpeggio) return;
    const says = arpeggio.step(frames, held);
    if (says === ARP_NOTE) {
      // With several voices the note before would otherwise be held on.
      if (this.several) this.voices[this.front].release();
      this.speak(ARPEGGIO_SOURCE, arpeggio.note[0], arpeggio.note[1], false, false);
    } else if (says === ARP_END) this.voices[this.front].release();
  }

  private step(from: number, to: number): void {
    const { left, right, stereo, last, bank, gains, voices, units } = this;
    if (this.arpeggio) this.runArpeggio(to - from);
    const { movers } = this;
    if (movers.runs) movers.step(to - from);
    else movers.wait(to - from);
    bank.step(to - from, movers);
    const { switches } = this;
    units.stand(0, switches.level, 1 + FILTERS);
    switches.step(to - from, movers);
    units.stand(1, switches.level, 1 + FILTERS);
    gains[SIDE_LEFT_0] = last[GAIN_LEFT];
    gains[SIDE_RIGHT_0] = last[GAIN_RIGHT];
    this.takeGains();
    gains[SIDE_LEFT_1] = last[GAIN_LEFT];
    gains[SIDE_RIGHT_1] = last[GAIN_RIGHT];
    if (this.silent) return;
    // With a chain the level comes behind it.
    const within = units.runs ? UNITY : gains;
    let written = false;
    // The one that speaks is written first, straight into the block.
    for (let n = 0; n < voices.length; n++) {
      const v = this.front + n < voices.length ? this.front + n : this.front + n - voices.length;
      if (!voices[v].active) continue;
      if (!written) {
        voices[v].write(left, right, from, to, bank.value, within);
        written = true;
        continue;
      }
      const { scratchLeft, scratchRight } = this;
      voices[v].write(scratchLeft, scratchRight, from, to, bank.value, within);
      for (let i = from; i < to; i++) left[i] += scratchLeft[i];
      if (stereo) for (let i = from; i < to; i++) right[i] += scratchRight[i];
    }
    if (!written) {
      for (let i = from; i < to; i++) left[i] = 0;
      if (stereo) for (let i = from; i < to; i++) right[i] = 0;
    }
    if (units.runs) {
      units.hear(movers.inputs.note);
      units.process(left, right, stereo, from, to, bank.value, gains);
    }
  }
}
