import { readdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { renderLoop } from '../engine/index.js';
import { levelsOf } from '../testing/levels-of.js';
import { FORMAT_VERSION } from './shape.js';
import { readDocument } from './validate.js';

const FOLDER = resolve(__dirname, '../testing/older');
interface Older {
  readonly name: string;
  readonly formatVersion: number;
}

/** Every demo sound as each version of the program wrote it; of version 6 the step of the line under a name of ours. */
const older = readdirSync(FOLDER)
  .filter((file) => file.startsWith('version-'))
  .flatMap((file) => JSON.parse(readFileSync(join(FOLDER, file), 'utf8')) as Older[]);
/**
 * Their levels in dB as they were found when a document was still brought up to date step by step, by hand,
 * version after version; where the soft clip acts, as they were found when it became a unit of grit. That runs at four
 * times the rate where the clip before it ran at two, and its antiderivative form averages neighbours: it takes
 * 20 log cos(πf/4r) off the top instead of 20 log cos(πf/2r), and nothing else changed (Ebb Drift at 48 kHz: +0.18 dB
 * at 7.5 kHz where that says 0.20, +1.40 at 19.5 kHz where it says 1.45, +0.001 below 1 kHz).
 */
const LEVELS = JSON.parse(readFileSync(join(FOLDER, 'levels.json'), 'utf8')) as Readonly<
  Record<string, readonly number[]>
>;

describe('a demo sound as an older version wrote it', () => {
  it('is there for every version before this one', () => {
    expect([...new Set(older.map(({ formatVersion }) => formatVersion))].sort()).toEqual(
      Array.from({ length: FORMAT_VERSION - 1 }, (_, v) => v + 1),
    );
  });

  it.each(
    older.map((document) => [`${document.name}, version ${document.formatVersion}`, document] as const),
  )('%s: is read, and sounds as it did', (name, document) => {
    const sound = readDocument(structuredClone(document));
    expect(sound.formatVersion).toBe(FORMAT_VERSION);
    levelsOf(renderLoop(sound, { sampleRateHz: 16000, stems: 'none' })).forEach((level, i) => {
      expect(Math.abs(level - LEVELS[name][i])).toBeLessThan(0.05);
    });
  });
});
