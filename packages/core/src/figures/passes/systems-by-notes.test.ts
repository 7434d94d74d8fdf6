import { slackWater } from '../../demo/index.js';
import { cleanNote, cleanSound, type SoundDocument } from '../../document/index.js';
import { renderLoop } from '../../engine/index.js';
import { SYSTEMS } from '../../translation/index.js';
import { systemsByNotes } from './systems-by-notes.js';

const byNotes = (sound: SoundDocument) =>
  systemsByNotes(sound, renderLoop(sound, { sampleRateHz: 48000, stems: 'none' }), SYSTEMS);
const place = (id: string) => SYSTEMS.findIndex((system) => system.id === id);

describe('systems by notes', () => {
  it('of a bare sub: every note is felt in the studio, and lost on the small phone', () => {
    const found = byNotes(slackWater());
    expect(found.map(({ note }) => note)).toEqual(slackWater().line.notes);
    for (const { heard } of found) {
      expect(heard![place('studio')].verdict).toBe('felt');
      expect(heard![place('phone')].verdict).toBe('lost');
    }
  });

  it('finds each note at its own pitch, through a glide, and says why it cannot tell of one too short', () => {
    const sound = cleanSound();
    const [body] = sound.layers;
    const found = byNotes({
      ...sound,
      ground: { ...sound.ground, bars: 1 },
      layers: [{ ...body, on: true, voice: { ...body.voice, glide: 'always', glideMs: 80 } }],
      line: {
        notes: [
          cleanNote({ tick: 0, ticks: 480, pitch: 36 }),
          cleanNote({ tick: 480, ticks: 480, pitch: 41 }),
          cleanNote({ tick: 1440, ticks: 20, pitch: 36 }),
        ],
      },
    });
    const hz = (n: number) => found[n].heard![0].harmonics[0].hz;
    expect(1200 * Math.log2(hz(1) / hz(0))).toBeCloseTo(500, -1);
    expect(found[2]).toMatchObject({ heard: null, reason: 'shorter than two cycles' });
  });
});
