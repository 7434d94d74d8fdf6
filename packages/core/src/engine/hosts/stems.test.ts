import { clipWith } from '../../testing/grit.js';
import fc from 'fast-check';
import { bilgeDrone, ebbDrift, keelPluck, slackWater, sluiceTalker } from '../../demo/index.js';
import { plainGrowl } from '../../testing/plain-growl.js';
import { cleanLink, type SoundDocument } from '../../document/index.js';
import { anyAssets, anySound } from '../../testing/any-sound.js';
import { worst } from '../../testing/bare.js';
import type { LoopRender } from './loop-render.js';
import { renderLoop } from './render-loop.js';
import type { Stems } from '../mix/mix.js';

const render = (sound: SoundDocument, stems: Stems = 'shares') =>
  renderLoop(sound, { sampleRateHz: 48000, stems, assets: anyAssets });

/** What the sum of the layers' stems leaves of the bass, in dB re the bass; null where that is silent. */
function restDb({ bass, layers }: LoopRender): number | null {
  let rest = 0;
  let whole = 0;
  for (const side of ['left', 'right'] as const) {
    for (let i = 0; i < bass[side].length; i++) {
      const sum = layers.reduce((all, layer) => all + layer[side][i], 0);
      rest += (sum - bass[side][i]) ** 2;
      whole += bass[side][i] ** 2;
    }
  }
  return whole > 1e-6 ? 10 * Math.log10(rest / whole + 1e-30) : null;
}

describe('stems of the layers', () => {
  it.each([
    ['Trench Growl', plainGrowl],
    ['Sluice Talker', sluiceTalker],
    ['Ebb Drift', ebbDrift],
    ['Keel Pluck', keelPluck],
    ['Bilge Drone', bilgeDrone],
    ['Slack Water', slackWater],
  ])('of %s add up to its bass with 18 dB of drive, under −60 dB', (_name, make) => {
    const sound = make();
    clipWith(sound, 18, -3);
    sound.output = { ...sound.output, levelDb: 6 };
    expect(restDb(render(sound))!).toBeLessThan(-60);
  });

  it('of any valid sound do so too, whatever is on', () => {
    let heard = 0;
    for (const sound of fc.sample(anySound, { numRuns: 14, seed: 91 })) {
      const rest = restDb(
        render({
          ...sound,
          ground: { ...sound.ground, bars: 1 },
          line: { notes: sound.line.notes.filter(({ tick, ticks }) => tick + ticks <= 1920) },
        }),
      );
      if (rest === null) continue;
      heard += 1;
      expect(rest).toBeLessThan(-60);
    }
    expect(heard).toBeGreaterThan(4);
  });

  it('are each what a layer is behind its units: what they take, a quiet one loses too', () => {
    const sound = plainGrowl();
    sound.grit.cleanPath.on = false;
    clipWith(sound, 24, 0);
    sound.layers[1].levelDb = -30;
    const power = ({ left }: { readonly left: Float32Array }) => left.reduce((sum, v) => sum + v * v, 0);
    const body = (document: typeof sound) =>
      power(render(document).layers.find(({ id }) => id === sound.layers[1].id)!);
    const alone = body({
      ...sound,
      layers: sound.layers.map((layer, index) => ({ ...layer, on: index === 1 })),
    });
    expect(10 * Math.log10(body(sound) / alone)).toBeLessThan(-3);
  });

  it('of a layer whose sides do not differ are found on one side, and are as they would be on both', () => {
    const sound = plainGrowl();
    sound.layers[1].panPct = 60;
    const [{ id }] = sound.layers;
    // A link that moves nothing: its sides may differ, and both are run.
    const link = cleanLink({
      id: 'none',
      mover: sound.movers[0].id,
      target: `layers.${id}.panPct`,
      reachPct: 0,
    });
    const [one] = render(sound).layers;
    const [both] = render({ ...sound, links: [...sound.links, link] }).layers;
    expect(worst(one.left, new Float32Array(one.left.length))).toBeGreaterThan(0.05);
    expect(worst(one.left, both.left)).toBeLessThan(1e-6);
    expect(worst(one.right, both.right)).toBeLessThan(1e-6);
  });

  it('are dry on request: as they go into the clip, whatever its drive', () => {
    const sound = plainGrowl();
    sound.output = { levelDb: -24, ceilingDb: 0 };
    const dry = (driveDb: number) => {
      const driven = structuredClone(sound);
      clipWith(driven, driveDb, 0);
      return render(driven, 'dry').layers;
    };
    const gentle = dry(0);
    dry(30).forEach((layer, l) => {
      expect(layer.left).toEqual(gentle[l].left);
    });
  });
});
