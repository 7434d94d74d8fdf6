import {
  BEATS_PER_BAR,
  createEngine,
  loopFrames,
  loopTicks,
  OtherStage,
  THROUGH_BLOCK,
  ThroughStage,
  type Engine,
  type Recording,
} from '@abyssal/core';
import { applyDelta } from '../state/delta';
import { Click } from './click';
import { Lateness } from './lateness';
import {
  DROPOUTS,
  DROPPED_MS,
  FRAMES,
  HEARD_FRAMES,
  LOAD,
  PEAK,
  PLACE,
  PLAYING,
  SharedAudio,
  type FromAudio,
  type ToAudio,
} from './protocol';

// The scope of an audio worklet, which TypeScript's libraries do not describe.
declare const sampleRate: number;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
  constructor(options?: unknown);
}
declare function registerProcessor(
  name: string,
  processor: new (options: { processorOptions: { shared: SharedArrayBuffer } }) => AudioWorkletProcessor,
): void;

const FALL_S = 0.3;
/**
 * The load is told anew after so many seconds of sound. An audio worklet has no clock finer than a
 * millisecond, which over so many blocks is fine enough: what is cut off a block's time is as often added to
 * another's.
 */
const LOAD_S = 0.4;

/** The engine on the audio thread. Messages are handled between blocks; the block path allocates nothing. */
class EngineProcessor extends AudioWorkletProcessor {
  private engine: Engine | null = null;
  private readonly shared: SharedAudio;
  private readonly assets = new Map<string, Recording>();
  /** Milliseconds taken, and frames made, since the load was told last. */
  private readonly took = new Float64Array(2);
  private readonly late = new Lateness();
  private readonly other = new OtherStage(sampleRate);
  private readonly through = new ThroughStage(sampleRate);
  private readonly click = new Click(sampleRate);
  private clicks = false;
  /** Frames of the count-in that are left; 0 while there is none. */
  private countIn = 0;

  constructor({ processorOptions }: { processorOptions: { shared: SharedArrayBuffer } }) {
    super();
    this.shared = new SharedAudio(processorOptions.shared);
    this.port.onmessage = ({ data }: MessageEvent<ToAudio>) => {
      this.take(data);
    };
  }

  private take(message: ToAudio): void {
    const { engine } = this;
    switch (message.kind) {
      case 'load':
        for (const [hash, recording] of message.assets) this.assets.set(hash, recording);
        this.engine = createEngine(message.document, {
          sampleRateHz: sampleRate,
          assets: new Map(this.assets),
        });
        return;
      case 'update':
        engine?.update(applyDelta(engine.sound, message.delta));
        return this.tellHeard(message.mark);
      case 'assets':
        for (const [hash, recording] of message.assets) this.assets.set(hash, recording);
        return engine?.update(engine.sound, new Map(this.assets));
      case 'freeze':
        return engine?.freeze(new Map(message.layers));
      case 'play':
        this.countIn = 0;
        this.seekOther(message.fromTick);
        return engine?.play(message.fromTick);
      case 'count in':
        engine?.stop();
        this.click.begin();
        this.countIn = Math.round((message.beats * 60 * sampleRate) / (engine?.sound.ground.tempoBpm ?? 120));
        return;
      case 'click':
        this.clicks = message.on;
        return;
      case 'stop':
        this.countIn = 0;
        return engine?.stop();
      case 'note':
        if (message.velocity > 0) engine?.noteOn(message.pitch, message.velocity);
        else engine?.noteOff(message.pitch);
        return this.tellHeard(message.mark);
      case 'listen':
        this.other.listen(message.monitor, message.mono);
        return engine?.listen(message.monitor, message.mono);
      case 'other':
        return this.other.set(message.loop);
      case 'match':
        return this.other.match(message.gains);
      case 'hear other':
        return this.other.hear(message.on);
      case 'through':
        return this.through.hear(message.through, message.ways);
    }
  }

  /** The other plays from the same place as the sound. */
  private seekOther(fromTick: number): void {
    const { bars, tempoBpm } = this.engine?.sound.ground ?? { bars: 1, tempoBpm: 120 };
    this.other.seek(Math.round((fromTick / loopTicks(bars)) * loopFrames(bars, tempoBpm, sampleRate)));
  }

  /** Tells where in the loop what was told last is heard first. */
  private tellHeard(mark: number | null): void {
    if (mark !== null && this.engine)
      this.port.postMessage({ kind: 'heard', mark, place: this.engine.place } satisfies FromAudio);
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const { engine, shared } = this;
    if (!engine) return true;
    const [left, right] = outputs[0];
    const frames = left.length;
    const began = Date.now();
    engine.settle();
    if (this.countIn > 0) {
      this.countIn -= frames;
      if (this.countIn <= 0) {
        this.seekOther(0);
        engine.play(0);
      }
    }
    engine.render(left, right, frames);
    this.other.process(left, right, frames, engine.playing);
    // A render quantum is that long everywhere so far; another one is heard by itself.
    if (frames === THROUGH_BLOCK) this.through.process(left, right);
    this.addClick(engine, left, right);
    const { state } = shared;
    const at = state[FRAMES] % HEARD_FRAMES;
    shared.left.set(left, at);
    shared.right.set(right, at);
    let peak = state[PEAK] * Math.exp(-frames / (FALL_S * sampleRate));
    for (let i = 0; i < frames; i++) {
      if (left[i] > peak) peak = left[i];
      else if (-left[i] > peak) peak = -left[i];
      if (right[i] > peak) peak = right[i];
      else if (-right[i] > peak) peak = -right[i];
    }
    state[PEAK] = peak;
    engine.tellMoved(shared.moved);
    state[PLACE] = engine.place;
    state[PLAYING] = engine.playing ? 1 : 0;
    state[FRAMES] += frames;
    const tookMs = Date.now() - began;
    this.late.block(tookMs, (1000 * frames) / sampleRate);
    state[DROPOUTS] = this.late.count;
    state[DROPPED_MS] = this.late.silentMs;
    this.tellLoad(tookMs, frames);
    return true;
  }

  private addClick(engine: Engine, left: Float32Array, right: Float32Array): void {
    const { click } = this;
    const { tempoBpm, bars } = engine.sound.ground;
    if (this.countIn > 0) click.count(tempoBpm, left, right);
    else if (this.clicks && engine.playing) click.follow(engine.place * bars * BEATS_PER_BAR, left, right);
    else click.ring(left, right);
  }

  private tellLoad(tookMs: number, frames: number): void {
    const { took } = this;
    took[0] += tookMs;
    took[1] += frames;
    if (took[1] < LOAD_S * sampleRate) return;
    this.shared.state[LOAD] = took[0] / ((1000 * took[1]) / sampleRate);
    took.fill(0);
  }
}

registerProcessor('abyssal-engine', EngineProcessor);
