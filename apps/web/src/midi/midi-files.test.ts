import { cleanSound, findProblems, readMidi, writeMidi, type SoundDocument } from '@abyssal/core';
import { lanesIn, lanesOut } from './midi-files';

const points = [0, 0.5, 1].map((value, i) => ({ tick: 480 * i, value, bend: 0, hold: true }));
const lane = (target: string) => ({ target, on: true, points });

describe('lanes in MIDI files', () => {
  const clean = cleanSound();
  const sound: SoundDocument = {
    ...clean,
    macros: clean.macros.map((macro, i) =>
      i === 1 ? { ...macro, control: { control: 'bend', channel: 0, way: 'absolute' as const } } : macro,
    ),
    lanes: [lane('macros.macro-1.valuePct'), lane('macros.macro-2.valuePct'), lane('layers.body.levelDb')],
  };

  it('go out by the control that they are bound to, or by one that is free', () => {
    expect(lanesOut(sound, []).map(({ control }) => control)).toEqual(['cc 20', 'bend', 'cc 102']);
    const bound = { target: 'layers.body.levelDb', control: 'cc 7', channel: 1, way: 'absolute' as const };
    expect(lanesOut(sound, [bound])[2].control).toBe('cc 7');
  });

  it('come back to what they were of, and what nothing is bound to is named', () => {
    const file = readMidi(writeMidi(sound.line.notes, 140, 'x', lanesOut(sound, [])));
    const { lanes, left } = lanesIn({ ...sound, lanes: [lane('layers.sub.levelDb')] }, file.lanes, []);
    expect(lanes.map(({ target }) => target)).toEqual(
      ['layers.sub.levelDb', 'macros.macro-1.valuePct', 'macros.macro-2.valuePct'].sort(
        (a, b) => lanes.findIndex((l) => l.target === a) - lanes.findIndex((l) => l.target === b),
      ),
    );
    expect(left).toEqual(['cc 102']);
    expect(findProblems({ ...sound, lanes })).toEqual([]);
    lanes[1].points.forEach(({ value }, i) => {
      expect(Math.abs(value - points[i].value)).toBeLessThan(0.001);
    });
  });
});
