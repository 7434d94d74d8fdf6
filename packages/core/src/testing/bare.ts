import { cleanNote, cleanSound, type SoundDocument } from '../document/index.js';
import { createEngine, renderLoop } from '../engine/index.js';
import { withoutUnits } from './grit.js';

/** The rate of what is played and rendered here. */
export const RATE = 48000;

/** A change to a sound, in place. */
export type Change = (sound: SoundDocument) => void;

/** A bar of one held F1 from a bare sine, without kick, clip or clean path; changed as asked. */
export function bare(change: Change = () => undefined): SoundDocument {
  const sound = structuredClone(cleanSound());
  sound.ground.bars = 1;
  sound.ground.tempoBpm = 120;
  sound.kick.on = false;
  sound.kick.hits = [];
  sound.grit.cleanPath.on = false;
  withoutUnits(sound);
  sound.layers = [sound.layers[0]];
  sound.layers[0].levelDb = 0;
  sound.layers[0].voice.velocityPct = 0;
  sound.output.ceilingDb = 0;
  sound.line.notes = [cleanNote({ tick: 0, ticks: 1900, pitch: 29 })];
  change(sound);
  return sound;
}
/** The loop of a sound. */
export const loopOf = (sound: SoundDocument) => renderLoop(sound, { sampleRateHz: RATE });

/** How far a frequency is from the one wanted, in cents. */
export const cents = (found: number, wanted: number) => 1200 * Math.log2(found / wanted);

/** The greatest difference between two signals. */
export const worst = (a: ArrayLike<number>, b: ArrayLike<number>) => {
  let most = 0;
  for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs(a[i] - b[i]));
  return most;
};

/** What an engine plays over some frames, while `during` is done to it before each block. */
export function play(
  sound: SoundDocument,
  frames: number,
  during: (engine: ReturnType<typeof createEngine>, at: number) => void = () => undefined,
  start = true,
) {
  const engine = createEngine(sound, { sampleRateHz: RATE });
  if (start) engine.play();
  const left = new Float32Array(frames);
  const right = new Float32Array(frames);
  for (let at = 0; at < frames; at += 128) {
    during(engine, at);
    engine.settle();
    engine.render(left.subarray(at, at + 128), right.subarray(at, at + 128), 128);
  }
  return { left, right, engine };
}
