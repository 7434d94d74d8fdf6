import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { noise, sine } from '../testing/signals.js';
import { run, scratch } from '../testing/tools.js';
import { FormatError } from './format-error.js';
import { readWavLoop } from './wav-loop.js';
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

describe('a WAV that lies about itself', () => {
  const UNKNOWN = 0xffffffff;
  /** A chunk that says of itself that it has so many bytes, and so many entries. */
  const chunk = (name: string, says: number, count: number, length = 40): number[] => {
    const bytes = new Uint8Array(8 + length);
    const view = new DataView(bytes.buffer);
    [...name].forEach((letter, i) => (bytes[i] = letter.charCodeAt(0)));
    view.setUint32(4, says, true);
    // Where `cue ` and a list of labels have their count, and where a sampler has its loops.
    view.setUint32(8, count, true);
    if (length >= 40) view.setUint32(8 + 28, count, true);
    return [...bytes];
  };
  const audio = () => {
    const bytes = [...writeWav([tone.subarray(0, 200)], 48000, '16')];
    return { header: bytes.slice(0, 36), data: bytes.slice(36) };
  };
  const cpuMs = (work: () => void): number => {
    const before = process.cpuUsage();
    work();
    const { user, system } = process.cpuUsage(before);
    return (user + system) / 1000;
  };

  it.each(['cue ', 'smpl', 'LIST', 'fact', 'bext', 'iXML', 'inst', 'adtl', 'junk'])(
    'in a chunk %s is taken by its audio alone',
    (name) => {
      const { header, data } = audio();
      for (const count of [UNKNOWN, 0x7fffffff, 1e6]) {
        const lies = chunk(name, 40, count);
        for (const bytes of [
          [...header, ...lies, ...data],
          [...header, ...data, ...lies],
          [...header, ...data, ...chunk(name, UNKNOWN, count)],
        ]) {
          const took = cpuMs(() => {
            expect(readWav(Uint8Array.from(bytes)).channels[0].length).toBe(200);
            readWavLoop(Uint8Array.from(bytes));
          });
          expect(took).toBeLessThan(200);
        }
        // One that claims to reach past the end hides the audio behind it.
        expect(refusal(Uint8Array.from([...header, ...chunk(name, UNKNOWN, count), ...data]))).toMatch(/WAV/);
      }
    },
  );

  it('or that is broken anywhere, ends at once with its audio or with one sentence', () => {
    const { header, data } = audio();
    const whole = Uint8Array.from([...header, ...chunk('cue ', 40, 1), ...data, ...chunk('smpl', 40, 1)]);
    const value = fc.oneof(fc.nat(255), fc.constantFrom(0, 1, 127, 128, 255));
    const change = fc.tuple(fc.oneof(fc.nat(100), fc.nat(whole.length - 1)), value);
    let taken = 0;
    fc.assert(
      fc.property(
        fc.array(change, { minLength: 1, maxLength: 8 }),
        fc.oneof(fc.constant(whole.length), fc.nat(whole.length)),
        (changes, length) => {
          const bytes = whole.slice(0, length);
          for (const [at, to] of changes) if (at < length) bytes[at] = to;
          const took = cpuMs(() => {
            readWavLoop(bytes);
            try {
              const { channels } = readWav(bytes);
              expect(channels[0].every((x) => Math.abs(x) < 1e6)).toBe(true);
              taken += 1;
            } catch (error) {
              expect(error).toBeInstanceOf(FormatError);
              expect((error as Error).message).not.toMatch(/\n/);
            }
          });
          expect(took).toBeLessThan(200);
        },
      ),
      { numRuns: 2000 },
    );
    expect(taken).toBeGreaterThan(200);
  });

  it('in nothing but chunks of no length, ends as well', () => {
    const bytes = new Uint8Array(8 << 20);
    bytes.set([...'RIFF'].map((letter) => letter.charCodeAt(0)));
    bytes.set(
      [...'WAVE'].map((letter) => letter.charCodeAt(0)),
      8,
    );
    expect(cpuMs(() => void readWavLoop(bytes))).toBeLessThan(200);
    expect(refusal(bytes)).toMatch(/no format chunk/);
  });

  it('is read block by block, as it would be whole', () => {
    // 1.2 MB: more than is decoded at once.
    const long = noise(200_001, 0.5);
    const { channels } = readWav(writeWav([long, long.map((x) => -x)], 48000, '24'));
    expect(channels.map((channel) => channel.length)).toEqual([long.length, long.length]);
    const off = long.map((x, i) => Math.max(Math.abs(channels[0][i] - x), Math.abs(channels[1][i] + x)));
    expect(off.reduce((most, x) => Math.max(most, x))).toBeLessThan(2e-7);
  });
});
