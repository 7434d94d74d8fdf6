import { cleanNote, SYSTEMS, type Heard, type Listening, type NoteOnSystems } from '@abyssal/core';
import { heardColumns, heardWords, leastHeard, type HeardCell } from './heard-map';
import { bandName, bandVerdict } from './mono-bands';

const listening = (verdict: Heard, marginDb: number, levels: readonly number[] = []): Listening => ({
  verdict,
  marginDb,
  harmonics: levels.map((splDb, i) => ({
    n: i + 1,
    hz: 44 * (i + 1),
    splDb,
    thresholdDb: 50,
    audible: splDb >= 53,
  })),
});
const note = (pitch: number, verdict: Heard, marginDb: number): NoteOnSystems => ({
  note: cleanNote({ pitch }),
  heard: SYSTEMS.map(() => listening(verdict, marginDb)),
  reason: null,
});

describe('the map of what is heard', () => {
  it('has a column a pitch, lowest first, by the note of it that is heard least', () => {
    const columns = heardColumns(
      [note(41, 'felt', 2), note(29, 'felt', 9), note(29, 'implied', 5), note(29, 'implied', 4)],
      SYSTEMS,
    );
    expect(columns.map(({ pitch }) => pitch)).toEqual([29, 41]);
    expect(columns[0].cells).toHaveLength(SYSTEMS.length);
    expect(columns[0].cells[3].listening).toMatchObject({ verdict: 'implied', marginDb: 4 });
    expect(leastHeard(columns)).toMatchObject({ pitch: 29, system: SYSTEMS[0] });
  });

  it('leaves out what cannot be told where another note of the pitch can, and else says why', () => {
    const short: NoteOnSystems = {
      note: cleanNote({ pitch: 29 }),
      heard: null,
      reason: 'shorter than two cycles',
    };
    expect(heardColumns([short, note(29, 'felt', 3)], SYSTEMS)[0].cells[0]).toMatchObject({ reason: null });
    const [column] = heardColumns([short], SYSTEMS);
    expect(column.cells[6]).toMatchObject({ listening: null });
    expect(heardWords(column.cells[6])).toBe('F1 on the small phone: cannot tell, shorter than two cycles.');
    expect(leastHeard(heardColumns([short, note(41, 'felt', 3)], SYSTEMS))).toMatchObject({ pitch: 41 });
    expect(leastHeard([])).toBeNull();
  });

  it('says of a cell what is heard, and by how much', () => {
    const cell = (of: Listening): HeardCell => ({
      pitch: 29,
      system: SYSTEMS[6],
      listening: of,
      reason: null,
    });
    expect(heardWords(cell(listening('felt', 3.21)))).toBe(
      'F1 on the small phone: felt. Its fundamental has 3.2 dB to spare.',
    );
    expect(heardWords(cell(listening('implied', 0.5)))).toMatch(
      /implied.*two of its harmonics are, with 0.5 dB/,
    );
    expect(heardWords(cell(listening('lost', -5.1, [20, 47.9, 30])))).toBe(
      'F1 on the small phone: lost. The best of its first ten harmonics, 88 Hz, is 2.1 dB under the room’s noise.',
    );
    expect(heardWords(cell(listening('lost', -5.1, [20, 60, 30, 60])))).toMatch(
      /Of its first ten harmonics 88 Hz is heard, but no neighbour/,
    );
  });
});

it('octaves stand to the targets of the lows and of the highs, those between to none', () => {
  const targets = {
    lowMonoLossDb: -0.3,
    lowMonoLossWatchDb: -1,
    highMonoLossDb: -3.2,
    highMonoLossWatchDb: -6,
  } as Parameters<typeof bandVerdict>[1];
  const figure = (value: number | null) =>
    value === null ? { value, reason: 'there is only silence' } : { value };
  const at = (centreHz: number, value: number | null) =>
    bandVerdict({ centreHz, lossDb: figure(value), correlation: figure(value) }, targets);
  expect([at(63, -0.2), at(63, -0.5), at(63, -2), at(63, null)]).toEqual([
    'holds',
    'watch',
    'falls short',
    'unknown',
  ]);
  expect([at(125, -9), at(250, -3), at(4000, -4), at(8000, -7)]).toEqual([
    'holds',
    'holds',
    'watch',
    'falls short',
  ]);
  expect([31.5, 500, 8000].map(bandName)).toEqual(['31', '500', '8k']);
});
