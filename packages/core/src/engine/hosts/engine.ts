import { BLOCK } from '../../dsp/index.js';
import { asBuilt, type SoundDocument } from '../../document/index.js';
import { loopTicks } from '../../units/index.js';
import { BACKING, bassNudgeMs, eventList, noteMarks, sourcesAt, type EventList } from './events.js';
import { Instrument, type Frozen } from './instrument.js';
import { eventKey, structureOf } from './rebuild-keys.js';
import { framesToGo } from './run-loop.js';
import { LIVE_SOURCE, NOWHERE } from '../layer/layer-player.js';
import type { Assets } from '../base/recording.js';

export type Monitor = 'both' | 'bass' | 'kick';

export interface EngineOptions {
  readonly sampleRateHz: number;
  readonly seed?: number;
  readonly assets?: Assets;
}

/** Length of the passage from an instrument to the one that takes its place, in seconds. */
const CROSSFADE_S = 0.01;
const NO_ASSETS: Assets = new Map();
const NOTHING_FROZEN: Frozen = new Map();

/**
 * A sound playing: the line in a loop, live notes beside it, and changes of the document while it sounds.
 * `render` neither
 * allocates nor throws; the other methods do their work between blocks.
 */
export class Engine {
  /** The document with all that macros switch. */
  private built: SoundDocument;
  private current: Instrument;
  private leaving: Instrument | null = null;
  private pending: SoundDocument | null = null;
  private events: EventList;
  private eventsFor: string;
  /** Frame in the loop up to which it is rendered, next event, frames left of a crossfade. */
  private readonly clock = new Float64Array(3);
  /** What was rendered last; the host has yet to take `made[1]` frames of it, from `made[0]` on. */
  private readonly left = new Float32Array(BLOCK);
  private readonly right = new Float32Array(BLOCK);
  private readonly made = new Int32Array(2);
  private running = false;
  private assets: Assets;
  private frozen = NOTHING_FROZEN;
  private readonly fadeFrames: number;
  /** Gains of bass and kick, share of mono: present, then wanted. */
  private readonly monitor = Float64Array.of(1, 1, 0, 1, 1, 0);
  private readonly options: { sampleRateHz: number; seed: number };

  constructor(
    private document: SoundDocument,
    { sampleRateHz, seed = 0, assets = NO_ASSETS }: EngineOptions,
  ) {
    this.options = { sampleRateHz, seed };
    this.assets = assets;
    this.fadeFrames = Math.round(CROSSFADE_S * sampleRateHz);
    this.built = asBuilt(document);
    this.events = eventList(this.built, sampleRateHz);
    this.eventsFor = eventKey(this.built);
    this.current = this.build(this.built);
  }

  /** The document that plays. */
  get sound(): SoundDocument {
    return this.document;
  }

  get playing(): boolean {
    return this.running;
  }

  /** Where the line stands, 0 to 1 of the loop: where a change made now is heard first. */
  get place(): number {
    return this.clock[0] / this.events.loopFrames;
  }

  /** Frames by which what is heard lies behind the line. */
  get latencyFrames(): number {
    return this.current.assembly.mix.latencyFrames;
  }

  private build(document: SoundDocument): Instrument {
    const made = new Instrument(document, {
      ...this.options,
      assets: this.assets,
      stems: 'none',
      frozen: this.frozen,
    });
    made.takeMarks(noteMarks(this.events));
    return made;
  }

  /**
   * Takes the layers that are to play back their own render of the loop at this sample rate, by id, in place
   * of all that did before; the passage is cross-faded.
   */
  freeze(frozen: Frozen): void {
    this.frozen = frozen;
    if (this.leaving) this.pending = this.built;
    else this.exchange(this.built);
  }

  /** Takes a changed document. Numbers move smoothly; another structure is built and cross-faded. */
  update(written: SoundDocument, assets: Assets = this.assets): void {
    const document = asBuilt(written);
    const otherAssets = assets !== this.assets;
    this.assets = assets;
    this.document = written;
    this.built = document;
    this.takeEvents(document);
    if (!otherAssets && structureOf(document) === this.current.structure) {
      this.current.set(document);
      this.pending = null;
    } else if (this.leaving) {
      this.pending = document;
    } else {
      this.exchange(document);
    }
  }

  private exchange(document: SoundDocument): void {
    const next = this.build(document);
    next.copyFrom(this.current);
    if (this.running) next.takeUp(this.events, this.clock[0], this.current);
    this.leaving = this.current;
    this.current = next;
    // What the next one makes comes out of its delays only later: till then it would repeat what it was
    // copied from, and jump.
    this.clock[2] = this.fadeFrames + next.assembly.mix.latencyFrames;
  }

  /**
   * Does what had to wait for a crossfade to end, and makes a table ahead of its need; the host calls it
   * between blocks.
   */
  settle(): void {
    this.current.layers.some((layer) => layer.prefetch());
    if (this.pending && !this.leaving) {
      this.exchange(this.pending);
      this.pending = null;
    }
  }

  private takeEvents(document: SoundDocument): void {
    const key = eventKey(document);
    if (key === this.eventsFor) return;
    const place = this.place;
    this.eventsFor = key;
    this.events = eventList(document, this.options.sampleRateHz);
    this.clock[0] = Math.min(this.events.loopFrames - 1, Math.round(place * this.events.loopFrames));
    this.current.takeMarks(noteMarks(this.events));
    this.findNext();
    if (!this.running) return;
    const sounding = sourcesAt(this.events, this.clock[0]);
    for (const source of this.current.layers[0].heldSources()) {
      if (source < LIVE_SOURCE && !sounding.has(source)) this.current.noteOff(source);
    }
  }

  private findNext(): void {
    let next = 0;
    while (next < this.events.frame.length && this.events.frame[next] < this.clock[0]) next++;
    this.clock[1] = next;
  }

  /**
   * Writes where all that is moved stands now, 0 to 1, then all that moves: in the order of `movedTargets` and
   * `movingIds` of the document that plays. Gives how many there are.
   */
  tellMoved(out: Float32Array): number {
    return this.current.tellMoved(out);
  }

  /** Starts the line at a tick. A line nudged to come early starts that much before the loop's first tick. */
  play(fromTick = 0): void {
    const { loopFrames } = this.events;
    const early =
      fromTick === 0
        ? Math.round((Math.max(0, -bassNudgeMs(this.document)) / 1000) * this.options.sampleRateHz)
        : 0;
    const from = Math.round((fromTick / loopTicks(this.document.ground.bars)) * loopFrames) - early;
    this.clock[0] = ((from % loopFrames) + loopFrames) % loopFrames;
    this.current.releaseLine();
    this.findNext();
    this.joinBacking();
    this.running = true;
  }

  /** Backing parts that began before where the line starts are joined on their way. */
  private joinBacking(): void {
    const { events, clock } = this;
    for (let i = 0; i < events.frame.length; i++) {
      if (events.type[i] === BACKING)
        this.current.assembly.backing[events.source[i]].begin(
          (clock[0] - events.frame[i] + events.loopFrames) % events.loopFrames,
        );
    }
  }

  stop(): void {
    this.running = false;
    this.clock[0] = 0;
    this.current.releaseLine();
    this.current.stop();
    this.leaving?.releaseLine();
    this.leaving?.stop();
  }

  noteOn(pitch: number, velocity: number): void {
    this.current.noteOn(LIVE_SOURCE + pitch, pitch, velocity, false);
    this.leaving?.noteOn(LIVE_SOURCE + pitch, pitch, velocity, false);
  }

  noteOff(pitch: number): void {
    this.current.noteOff(LIVE_SOURCE + pitch);
    this.leaving?.noteOff(LIVE_SOURCE + pitch);
  }

  /** Chooses what is heard. */
  listen(monitor: Monitor, mono: boolean): void {
    this.monitor[3] = monitor === 'kick' ? 0 : 1;
    this.monitor[4] = monitor === 'bass' ? 0 : 1;
    this.monitor[5] = mono ? 1 : 0;
  }

  /**
   * Writes the next `frames` samples of what is heard. Steps are cut by the loop, not by the host: what is left
   * of the last one is written first.
   */
  render(left: Float32Array, right: Float32Array, frames: number): void {
    const { made } = this;
    for (let done = 0; done < frames;) {
      if (made[1] === 0) this.step();
      const from = made[0];
      const rest = frames - done;
      const taken = made[1] < rest ? made[1] : rest;
      for (let i = 0; i < taken; i++) {
        left[done + i] = this.left[from + i];
        right[done + i] = this.right[from + i];
      }
      made[0] += taken;
      made[1] -= taken;
      done += taken;
    }
  }

  /** Makes the frames up to the next event, or mark of the grid. */
  private step(): void {
    const { clock, events, made } = this;
    let go = BLOCK;
    if (this.running) {
      if (clock[0] >= events.loopFrames) {
        clock[0] = 0;
        clock[1] = 0;
        this.current.assembly.mix.comeRound();
        this.leaving?.assembly.mix.comeRound();
      }
      while (clock[1] < events.frame.length && events.frame[clock[1]] <= clock[0]) {
        this.current.event(events, clock[1]);
        if (this.leaving) this.leaving.event(events, clock[1]);
        clock[1]++;
      }
      const next = clock[1] < events.frame.length ? events.frame[clock[1]] : events.loopFrames;
      go = framesToGo(clock[0], next);
    }
    // A whole number is passed on as it is.
    const place = this.running ? this.clock[0] | 0 : NOWHERE;
    this.current.render(go, place);
    if (this.leaving) this.leaving.render(go, place);
    this.write(go);
    if (this.running) clock[0] += go;
    made[0] = 0;
    made[1] = go;
  }

  private write(frames: number): void {
    const { left, right, monitor, clock, leaving } = this;
    const mix = this.current.assembly.mix;
    const settle = 1 - Math.exp(-frames / (0.003 * this.options.sampleRateHz));
    for (let m = 0; m < 3; m++) {
      const gap = monitor[m + 3] - monitor[m];
      monitor[m] = gap < 1e-6 && gap > -1e-6 ? monitor[m + 3] : monitor[m] + settle * gap;
    }
    const bass = monitor[0];
    const kick = monitor[1];
    const mono = monitor[2];
    if (!leaving && monitor[0] === 1 && monitor[1] === 1 && monitor[2] === 0) {
      for (let i = 0; i < frames; i++) {
        left[i] = mix.bassLeft[i] + mix.kickLeft[i];
        right[i] = mix.bassRight[i] + mix.kickRight[i];
      }
      if (mix.hasBacking) {
        for (let i = 0; i < frames; i++) {
          left[i] += mix.backLeft[i];
          right[i] += mix.backRight[i];
        }
      }
      return;
    }
    for (let i = 0; i < frames; i++) {
      // Backing parts are heard with both, and not with one of them alone.
      let l = bass * mix.bassLeft[i] + kick * mix.kickLeft[i] + bass * kick * mix.backLeft[i];
      let r = bass * mix.bassRight[i] + kick * mix.kickRight[i] + bass * kick * mix.backRight[i];
      if (leaving) {
        // A line bent at both ends: the passage has no corners to be heard.
        const rest = clock[2] - i;
        const share = rest >= this.fadeFrames ? 1 : rest > 0 ? rest / this.fadeFrames : 0;
        const old = share * share * (3 - 2 * share);
        l +=
          old *
          (bass * leaving.assembly.mix.bassLeft[i] +
            kick * leaving.assembly.mix.kickLeft[i] +
            bass * kick * leaving.assembly.mix.backLeft[i] -
            l);
        r +=
          old *
          (bass * leaving.assembly.mix.bassRight[i] +
            kick * leaving.assembly.mix.kickRight[i] +
            bass * kick * leaving.assembly.mix.backRight[i] -
            r);
      }
      const middle = 0.5 * mono * (l + r);
      left[i] = middle + (1 - mono) * l;
      right[i] = middle + (1 - mono) * r;
    }
    if (leaving) {
      clock[2] -= frames;
      if (clock[2] <= 0) this.leaving = null;
    }
  }
}

/** Makes an engine for a document at a sample rate in hertz. The document must be valid. */
export function createEngine(document: SoundDocument, options: EngineOptions): Engine {
  return new Engine(document, options);
}
