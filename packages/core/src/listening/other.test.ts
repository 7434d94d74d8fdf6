import { slackWater, trenchGrowl } from '../demo/index.js';
import { cleanBacking } from '../document/index.js';
import { measureLoudness } from '../measure/index.js';
import { RATE, saw, sine } from '../testing/signals.js';
import { toEnd } from '../units/index.js';
import { chanceOfRight } from './blind.js';
import { comparedLoopSteps, comparedRecording } from './other-loop.js';
import { matchedGains, OtherStage, type OtherLoop } from './other-stage.js';

const BLOCK = 128;
const stereo = (side: Float32Array) => ({ left: side, right: side });
/** What is heard of a sound beside another loop, block by block. */
function heard(
  stage: OtherStage,
  own: Float32Array,
  playing = true,
  at: (frame: number) => void = () => undefined,
) {
  const out = new Float32Array(own.length);
  for (let from = 0; from + BLOCK <= own.length; from += BLOCK) {
    at(from);
    const [left, right] = [own.slice(from, from + BLOCK), own.slice(from, from + BLOCK)];
    stage.process(left, right, BLOCK, playing);
    out.set(left, from);
  }
  return out;
}
const silence = (frames: number) => new Float32Array(frames);

describe('another loop in the place of a sound', () => {
  const loop = Float32Array.from({ length: 1000 }, (_, i) => i / 1000);
  const stageOf = () => {
    const stage = new OtherStage(RATE);
    stage.set({ both: stereo(loop), bass: stereo(loop.map((x) => -x)), kick: stereo(silence(1000)) });
    return stage;
  };

  it('is heard in time, from the frame at which the sound plays, round and round', () => {
    const stage = stageOf();
    stage.seek(300);
    stage.hear(true);
    const out = heard(stage, silence(BLOCK * 20));
    // After the 10 ms in which it comes in it is the loop, to the sample.
    for (let i = 500; i < 2500; i++) expect(out[i]).toBeCloseTo(loop[(300 + i) % 1000], 6);
  });

  it('runs on while the sound is heard, which is left as it is', () => {
    const stage = stageOf();
    const own = sine(200, 1, { amplitude: 0.3 });
    const out = heard(stage, own, true, (frame) => {
      if (frame === 100 * BLOCK) stage.hear(true);
    });
    expect(out.subarray(0, 100 * BLOCK)).toEqual(own.subarray(0, 100 * BLOCK));
    const at = 105 * BLOCK;
    expect(out[at]).toBeCloseTo(loop[at % 1000], 6);
  });

  it('is silent while nothing plays; is the bass or the kick alone where these are heard', () => {
    const stage = stageOf();
    stage.hear(true);
    expect(Math.max(...heard(stage, silence(BLOCK * 8), false).map(Math.abs))).toBe(0);
    stage.listen('bass', false);
    expect(Math.min(...heard(stage, silence(BLOCK * 20)))).toBeLessThan(-0.9);
    stage.listen('kick', true);
    expect(Math.max(...heard(stage, silence(BLOCK * 8)).map(Math.abs))).toBe(0);
  });

  it('comes and goes over 10 ms, without an edge', () => {
    const other = sine(100, 1, { amplitude: 0.5, phaseDeg: 90 });
    const own = sine(100, 1, { amplitude: 0.5, phaseDeg: 270 });
    const stage = new OtherStage(RATE);
    stage.set({ both: stereo(other), bass: stereo(other), kick: stereo(other) });
    const out = heard(stage, own, true, (frame) => {
      if (frame === 150 * BLOCK) stage.hear(true);
      if (frame === 250 * BLOCK) stage.hear(false);
    });
    for (let i = 1; i < 300 * BLOCK; i++) expect(Math.abs(out[i] - out[i - 1])).toBeLessThan(0.011);
  });

  it('is matched by lowering the louder of the two, within 0.1 LU of each other', () => {
    const own = saw(55, 4).map((x) => 0.3 * x);
    const other = sine(90, 4, { amplitude: 0.7 });
    const lufs = (side: Float32Array) =>
      measureLoudness({ channels: [side, side], sampleRateHz: RATE }).integrated.value!;
    for (const [a, b] of [
      [own, other],
      [other, own],
    ]) {
      const gains = matchedGains(lufs(a), lufs(b));
      expect(Math.max(gains.ownDb, gains.otherDb)).toBe(0);
      const hear = (on: boolean) => {
        const stage = new OtherStage(RATE);
        stage.set({ both: stereo(b), bass: stereo(b), kick: stereo(b) });
        stage.match(gains);
        stage.hear(on);
        heard(stage, silence(BLOCK * 8), false);
        return heard(stage, a);
      };
      expect(Math.abs(lufs(hear(false)) - lufs(hear(true)))).toBeLessThan(0.1);
    }
    expect(matchedGains(null, -9)).toEqual({ ownDb: 0, otherDb: 0 });
  });
});

describe('what is compared', () => {
  it('is another sound at the tempo of this one, with its backing parts in what is heard but not in what is measured', () => {
    const hum = 'a'.repeat(64);
    const assets = new Map([
      [hum, { channels: [sine(800, 4, { amplitude: 0.05, rate: 16000 })], sampleRateHz: 16000 }],
    ]);
    const own = slackWater();
    own.ground.tempoBpm = 100;
    const options = { sampleRateHz: 16000, assets };
    const bare = toEnd(comparedLoopSteps(trenchGrowl(), own, options));
    own.backing = [cleanBacking('part-1', hum, 'hum.wav')];
    const among = toEnd(comparedLoopSteps(trenchGrowl(), own, options));
    expect(bare.loop.both.left).toHaveLength((16000 * 60 * 8) / 100);
    expect(Math.abs(among.lufs! - bare.lufs!)).toBeLessThan(0.2);
    const power = (side: Float32Array) => side.reduce((total, x) => total + x * x, 0) / side.length;
    const beside = ({ both, bass, kick }: OtherLoop) =>
      power(both.left.map((x, i) => x - bass.left[i] - kick.left[i]));
    // The ceiling lowers what is beyond it, the part with the rest.
    expect(beside(bare.loop)).toBeLessThan(1e-4);
    expect(beside(among.loop)).toBeGreaterThan(0.6 * (0.05 ** 2 / 2));
  });

  it('is a recording at the rate of what plays it', () => {
    const { loop, lufs } = comparedRecording(
      { channels: [sine(100, 1, { rate: 44100 })], sampleRateHz: 44100 },
      RATE,
    );
    expect(Math.abs(loop.both.left.length - RATE)).toBeLessThan(4);
    expect(lufs).toBeCloseTo(
      measureLoudness({ channels: [sine(100, 1), sine(100, 1)], sampleRateHz: RATE }).integrated.value!,
      1,
    );
  });
});

it('the chance of a guess is that of the binomial table for ten trials of one half', () => {
  // Upper tails of the binomial distribution, n = 10, p = 0.5 (a standard table, from memory).
  const table = [1, 0.999, 0.9893, 0.9453, 0.8281, 0.623, 0.377, 0.1719, 0.0547, 0.0107, 0.001];
  table.forEach((chance, right) => {
    expect(chanceOfRight(right, 10)).toBeCloseTo(chance, 4);
  });
});
