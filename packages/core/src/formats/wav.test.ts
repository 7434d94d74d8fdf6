import { readFileSync } from 'node:fs';
import { noise, sine } from '../testing/signals.js';
import { run, scratch } from '../testing/tools.js';
import { FormatError } from './format-error.js';
import { atRate, readWav, writeWav } from './wav.js';

const files = scratch();
afterAll(() => {
  files.remove();
});

const tone = sine(440, 0.05, { amplitude: 0.5 });
const good = () => writeWav([tone, noise(tone.length)], 48000, '24');
/** A good file with some bytes changed: [place, value, width]. */
function patched(...changes: [number, number, 1 | 2 | 4][]): Uint8Array {
  const bytes = Uint8Array.from(good());
  const view = new DataView(bytes.buffer);
  for (const [at, value, width] of changes) {
    if (width === 1) view.setUint8(at, value);
    else if (width === 2) view.setUint16(at, value, true);
    else view.setUint32(at, value, true);
  }
  return bytes;
}
const refusal = (bytes: Uint8Array): string => {
  try {
    readWav(bytes);
  } catch (error) {
    expect(error).toBeInstanceOf(FormatError);
    return (error as Error).message;
  }
  throw new Error('it was taken');
};

describe('reading WAV', () => {
  // Written by sox, so that neither side of the format is ours alone.
  it.each([
    ['u8', '-b 8 -e unsigned-integer', 8, 1e-2],
    ['s16', '-b 16', 16, 5e-5],
    ['s24', '-b 24', 24, 2e-7],
    ['s32', '-b 32', 32, 1e-7],
    ['f32', '-b 32 -e floating-point', 32, 1e-7],
    ['f64', '-b 64 -e floating-point', 64, 1e-7],
  ])('%s as sox writes it', (name, format, bits, tolerance) => {
    const source = files.write('source.wav', writeWav([tone, tone.map((x) => -x)], 48000, '32f'));
    run('sox', ['-D', source, ...format.split(' '), files.path(`${name}.wav`)]);
    const { channels, sampleRateHz, bits: found } = readWav(readFileSync(files.path(`${name}.wav`)));
    expect([channels.length, sampleRateHz, found]).toEqual([2, 48000, bits]);
    expect(channels[0].length).toBe(tone.length);
    for (let i = 0; i < tone.length; i += 7) {
      expect(Math.abs(channels[0][i] - tone[i])).toBeLessThan(tolerance);
      expect(Math.abs(channels[1][i] + tone[i])).toBeLessThan(tolerance);
    }
  });

  it("reads an extensible header (ffmpeg's 24 bits) at 192 kHz", () => {
    const source = files.write('source.wav', writeWav([tone], 48000, '32f'));
    run('ffmpeg', [
      '-y',
      '-i',
      source,
      '-ar',
      '192000',
      '-ac',
      '2',
      '-c:a',
      'pcm_s24le',
      files.path('x.wav'),
    ]);
    const bytes = readFileSync(files.path('x.wav'));
    expect(bytes.readUInt16LE(20)).toBe(0xfffe);
    expect(readWav(bytes)).toMatchObject({ sampleRateHz: 192000, bits: 24 });
  });

  it('takes a data chunk of unknown length to the end of the file', () => {
    const bytes = writeWav([tone], 48000, '16');
    new DataView(bytes.buffer, bytes.byteOffset).setUint32(40, 0xffffffff, true);
    expect(readWav(bytes).channels[0].length).toBe(tone.length);
  });

  it('comes at any rate', () => {
    expect(atRate(readWav(writeWav([tone], 44100, '24')), 48000)[0].length).toBe(
      Math.round((tone.length * 48000) / 44100),
    );
  });

  it.each([
    ['an empty file', () => new Uint8Array(0), /not a WAV file/],
    [
      'a text called .wav',
      () => new TextEncoder().encode('this is no audio at all, only text'),
      /not a WAV file/,
    ],
    [
      'a truncated file',
      () => good().slice(0, 3000),
      /is cut off: its header promises \d+ bytes of audio and the file holds \d+/,
    ],
    ['a file cut in its header', () => good().slice(0, 30), /format chunk is too short|cut off|no audio/],
    ['no samples', () => writeWav([new Float32Array(0)], 48000, '16'), /holds no samples/],
    ['a lying length', () => patched([40, 0x7fffffff, 4]), /is cut off/],
    ['a lying block size', () => patched([32, 17, 2]), /contradicts itself/],
    ['nine channels', () => patched([22, 9, 2]), /9 channels/],
    ['a rate of 1 Hz', () => patched([24, 1, 4]), /sample rate is 1 Hz/],
    ['a compressed kind', () => patched([20, 0x55, 2]), /compressed or of an unknown kind/],
    ['12 bits', () => patched([34, 12, 2], [32, 3, 2]), /12 bits a sample/],
  ])('refuses %s in one sentence', (_name, make, sentence) => {
    const message = refusal(make());
    expect(message).toMatch(sentence);
    expect(message).not.toMatch(/\n/);
  });

  it('refuses samples that are no numbers', () => {
    const bytes = writeWav([Float32Array.of(0, NaN, 0.5)], 48000, '32f');
    expect(refusal(bytes)).toMatch(/not audio \(not a number/);
    expect(refusal(writeWav([Float32Array.of(0, Infinity)], 48000, '32f'))).toMatch(/or infinite/);
  });

  it('ends in a refusal or in samples, whatever bytes are changed', () => {
    const random = noise(4000, 9);
    for (let k = 0; k < 150; k++) {
      const bytes = patched(
        [Math.floor(Math.abs(random[4 * k]) * 60), Math.floor(Math.abs(random[4 * k + 1]) * 255), 1],
        [Math.floor(Math.abs(random[4 * k + 2]) * 60), Math.floor(Math.abs(random[4 * k + 3]) * 255), 1],
      );
      try {
        expect(readWav(bytes).channels[0].length).toBeGreaterThan(0);
      } catch (error) {
        expect(error).toBeInstanceOf(FormatError);
      }
    }
  });
});

describe('writing WAV', () => {
  it.each(['16', '24', '32f'] as const)('%s is read by sox with the same level', (bits) => {
    const file = files.write(`w${bits}.wav`, writeWav([tone, tone], 48000, bits));
    const found = /RMS\s+amplitude:\s+([\d.]+)/.exec(run('sox', [file, '-n', 'stat']));
    expect(Number(found![1])).toBeCloseTo(0.5 / Math.SQRT2, 3);
  });

  it('dithers 16 bits by triangular noise of one step RMS √(1/6+1/12) around silence', () => {
    const { channels } = readWav(writeWav([new Float32Array(48000)], 48000, '16'));
    const power = channels[0].reduce((sum, x) => sum + (x * 32768) ** 2, 0) / 48000;
    // Triangular dither of ±1 step has a variance of 1/6, rounding adds 1/12 (Lipshitz, Wannamaker and
    // Vanderkooy, 1992).
    expect(power).toBeCloseTo(1 / 6 + 1 / 12, 1);
    expect(Math.max(...channels[0].map((x) => Math.abs(x * 32768)))).toBeLessThanOrEqual(1);
  });

  it('writes the same bytes each time, and clips instead of wrapping', () => {
    expect(writeWav([tone], 48000, '16')).toEqual(writeWav([tone], 48000, '16'));
    const { channels } = readWav(writeWav([Float32Array.of(2, -2)], 48000, '24'));
    expect(channels[0][0]).toBeCloseTo(1, 5);
    expect(channels[0][1]).toBeCloseTo(-1, 5);
  });
});
