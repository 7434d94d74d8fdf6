import Papa from 'papaparse';
import { slackWater } from '../demo/index.js';
import { FIGURE_IDS } from './kinds/index.js';
import { soundingCsv } from './sounding-csv.js';
import { measuredText, soundingFile } from './sounding-file.js';
import { soundingOf } from './sounding.js';

const sound = slackWater();
const found = soundingOf(sound, { sampleRateHz: 48000 });
const file = soundingFile(sound, {
  ...found,
  notes: found.pass.notes,
  mono: found.pass.mono,
  clicks: found.pass.clicks,
  heard: found.pass.heard,
});

describe('a sounding as a file', () => {
  it('is plain JSON, with every figure and every note on every system', () => {
    expect(JSON.parse(JSON.stringify(file))).toEqual(file);
    expect(file.figures.map(({ id }) => id).sort()).toEqual([...FIGURE_IDS].sort());
    expect(file.figures[0]).toMatchObject({ id: 'heard', value: 4, outOf: 7, verdict: 'falls short' });
    expect(file.systems).toHaveLength(7);
    for (const { notes } of file.systems) expect(notes).toHaveLength(sound.line.notes.length);
    expect(file.systems[6].notes[0]).toMatchObject({ note: 'D1', at: '1.1', verdict: 'lost' });
    expect(file.spectrum.bassDb).toHaveLength(file.spectrum.centresHz.length);
    expect(file.notes).toHaveLength(sound.line.notes.length);
  });

  it('as CSV reads back as it was, table by table', () => {
    const tables = soundingCsv(file)
      .split('\n\n')
      .map((text) => Papa.parse<string[]>(text.trim()).data);
    expect(tables.map(([head]) => head[0])).toEqual([
      'figure',
      'system',
      'note',
      'octave Hz',
      'third of an octave Hz',
    ]);
    expect(tables[0]).toHaveLength(1 + file.figures.length);
    expect(tables[0][1].slice(0, 4)).toEqual(['Heard on systems', '4', '', 'falls short']);
    expect(tables[1]).toHaveLength(1 + 7 * sound.line.notes.length);
    expect(Number(tables[4][1][1])).toBe(file.spectrum.bassDb[0]);
  });

  it('depends on all that is heard or held against a target, and not on its name', () => {
    const text = measuredText(sound);
    expect(measuredText({ ...sound, name: 'Other', author: 'A', tags: ['x'] })).toBe(text);
    expect(measuredText({ ...sound, targets: { ...sound.targets, mudDb: -9 } })).not.toBe(text);
    expect(measuredText({ ...sound, seed: sound.seed + 1 })).not.toBe(text);
  });
});
