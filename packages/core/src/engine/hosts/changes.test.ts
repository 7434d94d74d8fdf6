import { cleanSource, type SoundDocument } from '../../document/index.js';
import { slackWater } from '../../demo/index.js';
import { plainGrowl } from '../../testing/plain-growl.js';
import { bare, play, RATE, worst, type Change } from '../../testing/bare.js';
import { findClicks } from '../../measure/index.js';

describe('changes while it plays', () => {
  it('sound the same whether what an edit leaves alone is the same object or a copy of it', () => {
    const sound = plainGrowl();
    sound.kick.shared = true;
    sound.layers[1].tones[0] = {
      ...sound.layers[1].tones[0],
      source: cleanSource('harmonics', { ringMs: 400 }),
    };
    const edits: Partial<SoundDocument>[] = [
      { layers: sound.layers.map((layer, l) => (l === 1 ? { ...layer, levelDb: -3 } : layer)) },
      { ground: { ...sound.ground, a4Hz: 452 } },
      { links: sound.links.map((link) => ({ ...link, reachPct: -0.5 * link.reachPct })) },
      // The lowest tone of all, which others ask for.
      {
        layers: sound.layers.map((layer, l) =>
          l === 0 ? { ...layer, tones: layer.tones.map((tone) => ({ ...tone, cents: 40 })) } : layer,
        ),
      },
      { layers: [{ ...sound.layers[0], on: false }, ...sound.layers.slice(1)] },
    ];
    const heard = (copied: boolean) =>
      play(sound, 48000, (engine, at) => {
        const edit = edits[at / 8192];
        if (!edit) return;
        const next = { ...engine.sound, ...edit };
        engine.update(copied ? structuredClone(next) : next);
      });
    const [shared, copies] = [heard(false), heard(true)];
    // Pitches that are worked out anew differ in the last bit: a null of better than −140 dB.
    expect(worst(shared.left, copies.left)).toBeLessThan(1e-7);
    expect(worst(shared.right, copies.right)).toBeLessThan(1e-7);
  });

  const moved = (change: Change) => {
    const sound = bare((s) => {
      s.layers[0].tones[0].octave = 1;
    });
    const other = structuredClone(sound);
    change(other);
    const { left } = play(sound, 128 * 600, (engine, at) => {
      if (at === 128 * 300) engine.update(other);
    });
    return {
      left,
      clicks: findClicks({ channels: [left], sampleRateHz: RATE }).filter(
        ({ timeS }) => Math.abs(timeS - 0.8) < 0.05,
      ),
    };
  };

  it.each<[string, Change]>([
    [
      'level',
      (s) => {
        s.layers[0].levelDb = -18;
      },
    ],
    [
      'fine tuning',
      (s) => {
        s.layers[0].tones[0].cents = 90;
      },
    ],
    [
      'shape',
      (s) => {
        s.layers[0].tones[0].source = cleanSource('shape', { shape: 'triangle' });
      },
    ],
    [
      'filter switched on',
      (s) => {
        s.layers[0].filters[0].on = true;
        s.layers[0].filters[0].cutoffHz = 300;
      },
    ],
    [
      'drawn harmonics for a shape',
      (s) => {
        s.layers[0].tones[0].source = cleanSource('harmonics');
      },
    ],
    [
      'frames for a shape',
      (s) => {
        s.layers[0].tones[0].source = cleanSource('frames', { table: 'odd stair', positionPct: 60 });
      },
    ],
    [
      'FM for a shape',
      (s) => {
        s.layers[0].tones[0].source = cleanSource('fm');
      },
    ],
    [
      'a voice for a shape',
      (s) => {
        s.layers[0].tones[0].source = cleanSource('vowel', { breathPct: 0 });
      },
    ],
    [
      'a second tone switched on',
      (s) => {
        s.layers[0].tones[1] = { ...s.layers[0].tones[0], octave: 2 };
      },
    ],
    [
      'a tone that steers another',
      (s) => {
        s.layers[0].tones[1] = { ...s.layers[0].tones[0], levelDb: -60 };
        s.layers[0].acts.two = { way: 'steer', amountPct: 30 };
      },
    ],
    [
      'a filter of another kind',
      (s) => {
        s.layers[0].filters[0] = {
          ...s.layers[0].filters[0],
          on: true,
          mode: 'comb',
          cutoffHz: 400,
          resonancePct: 40,
        };
      },
    ],
    [
      'feedback switched on',
      (s) => {
        s.layers[0].feedback = { on: true, way: 'clip', amountPct: 60, delayMs: 3 };
      },
    ],
    [
      'feedback of the whole switched on',
      (s) => {
        s.feedback = { on: true, way: 'clip', amountPct: 60, delayMs: 3 };
      },
    ],
    [
      'several voices for one',
      (s) => {
        s.layers[0].voice.notes = 'several';
        s.layers[0].levelDb = -20;
      },
    ],
    [
      'output level',
      (s) => {
        s.output.levelDb = -12;
      },
    ],
  ])('%s is heard at once and without a click', (_name, change) => {
    const { left, clicks } = moved(change);
    expect(clicks).toEqual([]);
    const before = left.subarray(128 * 250, 128 * 290);
    const after = left.subarray(128 * 320, 128 * 360);
    expect(worst(before, after)).toBeGreaterThan(0.05);
  });

  it('the tempo moves the line and keeps its place', () => {
    const sound = plainGrowl();
    const { engine } = play(sound, 128 * 400, (e, at) => {
      if (at === 128 * 200) {
        const place = e.place;
        e.update({ ...sound, ground: { ...sound.ground, tempoBpm: 174 } });
        expect(e.place).toBeCloseTo(place, 4);
      }
    });
    expect(engine.playing).toBe(true);
  });

  it('a note that is taken away while it sounds does not hang', () => {
    const sound = bare();
    const { left } = play(sound, 128 * 700, (engine, at) => {
      if (at === 128 * 100) engine.update({ ...sound, line: { notes: [] } });
    });
    expect(Math.max(...left.subarray(128 * 300).map(Math.abs))).toBe(0);
  });

  it('listens to bass, kick and mono', () => {
    const of = (monitor: 'both' | 'bass' | 'kick', mono: boolean) =>
      play(slackWater(), 128 * 300, (engine, at) => {
        if (at === 0) engine.listen(monitor, mono);
      });
    const late = (x: Float32Array) => x.subarray(128 * 100);
    const both = of('both', false);
    const bass = of('bass', false);
    const kick = of('kick', false);
    expect(
      worst(
        late(both.left),
        late(bass.left).map((x, i) => x + late(kick.left)[i]),
      ),
    ).toBeLessThan(1e-4);
    const mono = of('both', true);
    expect(worst(late(mono.left), late(mono.right))).toBe(0);
  });
});
