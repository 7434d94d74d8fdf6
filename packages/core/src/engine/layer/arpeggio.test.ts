import { NO_RATE } from '../../kinds/movers/index.js';
import { cleanLayer } from '../../document/index.js';
import { ARP_END, ARP_NOTE, Arpeggio } from './arpeggio.js';
import { HeldNotes } from './held-notes.js';

const RATE = 48000;
const plays = (patch: Partial<ReturnType<typeof cleanLayer>['plays']> = {}) => ({
  ...cleanLayer('body').plays,
  as: 'arpeggio' as const,
  rateBeats: 0.25,
  ...patch,
});
const hold = (...pitches: number[]) => {
  const held = new HeldNotes();
  pitches.forEach((pitch, i) => {
    held.add(i, pitch, 60 + i, 0, NO_RATE, -1);
  });
  return held;
};

/** The pitches of so many steps. */
function run(arpeggio: Arpeggio, held: HeldNotes, steps: number): number[] {
  const out: number[] = [];
  for (let i = 0; i < 4000 && out.length < steps; i++)
    if (arpeggio.step(64, held) === ARP_NOTE) out.push(arpeggio.note[0]);
  return out;
}
const made = (patch: Parameters<typeof plays>[0] = {}, seed = 1) => {
  const arpeggio = new Arpeggio(plays(patch), 120, RATE, seed, 1);
  arpeggio.begin();
  return arpeggio;
};

describe('an arpeggio', () => {
  it.each([
    ['up', 1, [40, 43, 47, 40, 43]],
    ['down', 1, [47, 43, 40, 47, 43]],
    ['both', 1, [40, 43, 47, 43, 40]],
    ['played', 1, [43, 47, 40, 43, 47]],
    ['up', 2, [40, 43, 47, 52, 55]],
    ['down', 2, [59, 55, 52, 47, 43]],
    ['both', 2, [40, 43, 47, 52, 55, 59, 55, 52, 47, 43, 40, 43]],
  ] as const)('runs %s over %d octaves', (order, octaves, wanted) => {
    expect(run(made({ order, octaves }), hold(43, 47, 40), wanted.length)).toEqual(wanted);
  });

  it('in any order plays every note, the same with the same seed', () => {
    const any = run(made({ order: 'any', octaves: 2 }, 4), hold(40, 43, 47), 60);
    expect(new Set(any)).toEqual(new Set([40, 43, 47, 52, 55, 59]));
    expect(run(made({ order: 'any', octaves: 2 }, 4), hold(40, 43, 47), 60)).toEqual(any);
    expect(run(made({ order: 'any', octaves: 2 }, 5), hold(40, 43, 47), 60)).not.toEqual(any);
  });

  it('plays one note over and over, both ways too', () => {
    expect(run(made({ order: 'both' }), hold(40), 3)).toEqual([40, 40, 40]);
  });

  it('keeps time: a step lasts its beats at the tempo, and drifts by nothing', () => {
    const arpeggio = made();
    const held = hold(40);
    const at: number[] = [];
    for (let i = 0; i < 48000; i++) if (arpeggio.step(16, held) === ARP_NOTE) at.push(i * 16);
    // A sixteenth at 120 bpm is an eighth of a second.
    at.forEach((frame, i) => {
      expect(Math.abs(frame - i * 6000)).toBeLessThanOrEqual(16);
    });
    arpeggio.set(plays(), 60);
    at.length = 0;
    for (let i = 0; i < 12000; i++) if (arpeggio.step(16, held) === ARP_NOTE) at.push(i * 16);
    expect(at[3] - at[2]).toBe(12000);
  });

  it('ends a note after its gate, and takes the velocity of the note it plays', () => {
    const arpeggio = made({ gatePct: 50 });
    const held = hold(43, 40);
    const says: [number, number][] = [];
    for (let i = 0; i < 400; i++) {
      const said = arpeggio.step(16, held);
      if (said !== 0) says.push([said, i * 16]);
    }
    expect(says.slice(0, 2).map(([said]) => said)).toEqual([ARP_NOTE, ARP_END]);
    expect(Math.abs(says[1][1] - 3000)).toBeLessThanOrEqual(16);
    expect(arpeggio.note[1]).toBe(60);
  });

  it('begins anew with the first note held, and says nothing while none is', () => {
    const arpeggio = made();
    const held = hold(40, 43, 47);
    expect(run(arpeggio, held, 2)).toEqual([40, 43]);
    while (held.count > 0) held.removeAt(0);
    expect(run(arpeggio, held, 1)).toEqual([]);
    arpeggio.begin();
    held.add(1, 50, 100, 0, NO_RATE, -1);
    held.add(2, 53, 100, 0, NO_RATE, -1);
    expect(run(arpeggio, held, 2)).toEqual([50, 53]);
  });
});

describe('the notes that are held', () => {
  it('say which one speaks', () => {
    const held = hold(45, 57, 52);
    expect(held.pitch[held.speaking('last')]).toBe(52);
    expect(held.pitch[held.speaking('lowest')]).toBe(45);
    expect(held.pitch[held.speaking('highest')]).toBe(57);
    held.removeAt(held.find(1));
    expect(held.pitch[held.speaking('highest')]).toBe(52);
    expect(held.find(1)).toBe(-1);
  });

  it('forget the oldest where there are too many', () => {
    const held = hold(...Array.from({ length: 40 }, (_, i) => 20 + i));
    expect(held.count).toBe(32);
    expect([held.pitch[0], held.find(7), held.find(8)]).toEqual([28, -1, 0]);
  });

  it('of the same source end the latest first', () => {
    const held = hold(40);
    held.add(0, 47, 90, 0, NO_RATE, -1);
    expect(held.pitch[held.find(0)]).toBe(47);
  });
});
