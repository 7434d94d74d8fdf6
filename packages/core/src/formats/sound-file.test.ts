import { cleanWavKick, cleanSound, DocumentError, FORMAT_VERSION } from '../document/index.js';
import { FormatError } from './format-error.js';
import { assetsOf, explainError, readSoundFile, writeSoundFile } from './sound-file.js';

const HASH = 'a'.repeat(64);

describe('sound files', () => {
  it('give back what was written, with and without recordings', () => {
    const sound = cleanSound('Deep');
    expect(readSoundFile(writeSoundFile({ sound, assets: {} }))).toEqual({ sound, assets: {} });
    const kept = { sound, assets: { [HASH]: 'UklGRg==' } };
    expect(readSoundFile(writeSoundFile(kept))).toEqual(kept);
  });

  it('say in one sentence what is wrong', () => {
    expect(() => readSoundFile('{')).toThrow('this is not a sound file: it is not JSON');
    expect(() => readSoundFile('[]')).toThrow(DocumentError);
    expect(() =>
      readSoundFile(JSON.stringify({ ...cleanSound(), formatVersion: FORMAT_VERSION + 1 })),
    ).toThrow(/Open it with a newer Abyssal/);
    expect(() =>
      readSoundFile(JSON.stringify({ format: 'abyssal.bundle', formatVersion: 9, sound: cleanSound() })),
    ).toThrow(/version 9; this program reads version 1/);
    expect(() =>
      readSoundFile(
        JSON.stringify({
          format: 'abyssal.bundle',
          formatVersion: 1,
          sound: cleanSound(),
          assets: { x: 'y' },
        }),
      ),
    ).toThrow(FormatError);
    // JSON has no NaN: what other programs write for it is no JSON, and null is no number.
    expect(() =>
      readSoundFile(JSON.stringify(cleanSound()).replace('"tempoBpm":140', '"tempoBpm":NaN')),
    ).toThrow(/not JSON/);
    expect(() =>
      readSoundFile(JSON.stringify(cleanSound()).replace('"tempoBpm":140', '"tempoBpm":null')),
    ).toThrow('ground.tempoBpm: null is not a number');
  });

  it('know which recordings a sound needs, and explain only errors of their own', () => {
    expect(assetsOf(cleanSound())).toEqual([]);
    expect(
      assetsOf({ ...cleanSound(), kick: { ...cleanSound().kick, wav: cleanWavKick(HASH, 'k.wav') } }),
    ).toEqual([HASH]);
    expect(explainError(new FormatError('why'))).toBe('why');
    expect(explainError(new Error('else'))).toBeNull();
  });
});
