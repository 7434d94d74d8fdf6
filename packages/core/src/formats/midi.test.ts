import fc from 'fast-check';
import midiFile from 'midi-file';
import { cleanNote, cleanSound, findProblems } from '../document/index.js';
import { FormatError } from './format-error.js';
import { readMidi, writeMidi } from './midi.js';

const line = [
  cleanNote({ tick: 0, ticks: 720, pitch: 29, velocity: 100 }),
  cleanNote({ tick: 720, ticks: 200, pitch: 29, velocity: 127, accent: true }),
  cleanNote({ tick: 960, ticks: 480, pitch: 32, velocity: 96 }),
  cleanNote({ tick: 1440, ticks: 480, pitch: 34, velocity: 64, tie: true }),
];

/** A file of format 0 with one track of the bytes given. */
function file(track: number[], division = [0x01, 0xe0], header = [0, 0, 0, 1]): Uint8Array {
  const length = track.length;
  return Uint8Array.from([
    0x4d,
    0x54,
    0x68,
    0x64,
    0,
    0,
    0,
    6,
    ...header,
    ...division,
    0x4d,
    0x54,
    0x72,
    0x6b,
    (length >>> 24) & 255,
    (length >>> 16) & 255,
    (length >>> 8) & 255,
    length & 255,
    ...track,
  ]);
}
const END = [0x00, 0xff, 0x2f, 0x00];

describe('MIDI files', () => {
  it('give back the line that was written', () => {
    const read = readMidi(writeMidi(line, 140, 'Trench Growl'));
    expect(read.notes).toEqual(line);
    expect(read.tempoBpm).toBeCloseTo(140, 2);
    expect(read.bars).toBe(1);
    expect(read.dropped).toBe(0);
  });

  it('are written at 480 ticks a quarter in format 0', () => {
    const { header } = midiFile.parseMidi(writeMidi(line, 120, 'x'));
    expect(header).toMatchObject({ format: 0, numTracks: 1, ticksPerBeat: 480 });
  });

  // Standard MIDI File 1.0: variable-length 0x40 = 40, 0x2000 = C0 00, 0x0FFFFFFF = FF FF FF 7F.
  it.each([
    [0x40, [0x40]],
    [0x2000, [0xc0, 0x00]],
    [0x0fffffff, [0xff, 0xff, 0xff, 0x7f]],
  ])('reads a variable-length %i', (ticks, bytes) => {
    const track = [...bytes, 0x90, 29, 100, 0x83, 0x60, 0x80, 29, 64, ...END];
    if (ticks > 1e6) expect(readMidi(file(track)).notes[0].tick).toBe(ticks % 1920);
    else expect(readMidi(file(track)).notes[0]).toMatchObject({ tick: ticks % 1920, ticks: 480 });
  });

  it('reads running status, and velocity 0 as an end', () => {
    const track = [0x00, 0x90, 29, 100, 0x83, 0x60, 29, 0, 0x00, 31, 90, 0x83, 0x60, 31, 0, ...END];
    expect(readMidi(file(track)).notes.map(({ tick, ticks, pitch }) => [tick, ticks, pitch])).toEqual([
      [0, 480, 29],
      [480, 480, 31],
    ]);
  });

  it('scales other divisions to 480', () => {
    const track = [0x00, 0x90, 29, 100, 0x60, 0x80, 29, 64, ...END];
    expect(readMidi(file(track, [0, 96])).notes[0].ticks).toBe(480);
  });

  it('begins at the first bar with a note, and leaves out what lies past bar 16', () => {
    const far = [cleanNote({ tick: 0, ticks: 240, pitch: 29 })];
    const bytes = writeMidi([...far, cleanNote({ tick: 40000, ticks: 240, pitch: 31 })], 120, 'x');
    expect(readMidi(bytes)).toMatchObject({ dropped: 1, bars: 1 });
  });

  it.each([
    ['garbage', Uint8Array.from({ length: 200 }, (_, i) => (i * 37) & 255), /not a MIDI file/],
    ['an empty file', new Uint8Array(0), /not a MIDI file/],
    ['a cut track', writeMidi(line, 120, 'x').slice(0, -9), /cut off or broken/],
    ['no notes', file(END), /has no notes/],
    ['film frames', file([0x00, 0x90, 29, 100, 0x60, 0x80, 29, 64, ...END], [0xe7, 0x28]), /film frames/],
    ['a track of garbage', file([0xff, 0xff, 0xff, 0xff, 0xff, 0x12, 0x7f]), /broken|holds no notes/],
  ])('refuses %s in one sentence', (_name, bytes, sentence) => {
    expect(() => readMidi(bytes)).toThrow(FormatError);
    expect(() => readMidi(bytes)).toThrow(sentence);
  });

  it('takes no value that no MIDI byte has', () => {
    const on = (pitch: number, velocity: number) => [
      0x00,
      0x90,
      pitch,
      velocity,
      0x81,
      0x70,
      0x80,
      pitch,
      0x40,
    ];
    expect(readMidi(file([...on(40, 127), ...END])).notes[0]).toMatchObject({ pitch: 40, velocity: 127 });
    for (const [pitch, velocity] of [
      [40, 200],
      [40, 128],
      [200, 100],
    ])
      expect(() => readMidi(file([...on(pitch, velocity), ...END]))).toThrow(
        new FormatError('the MIDI file is broken: a note in it has a value above 127'),
      );
  });

  it('never gives a line that a sound cannot hold, whatever bytes are changed', () => {
    const whole = writeMidi(line, 140, 'line');
    const change = fc.tuple(fc.nat(whole.length - 1), fc.nat(255));
    let read = 0;
    fc.assert(
      fc.property(fc.array(change, { minLength: 1, maxLength: 6 }), (changes) => {
        const bytes = Uint8Array.from(whole);
        for (const [at, value] of changes) bytes[at] = value;
        try {
          const { notes, bars } = readMidi(bytes);
          const sound = cleanSound();
          expect(
            findProblems({
              ...sound,
              ground: { ...sound.ground, bars },
              kick: { ...sound.kick, hits: [] },
              line: { notes },
            }),
          ).toEqual([]);
          read += 1;
        } catch (error) {
          expect(error).toBeInstanceOf(FormatError);
        }
      }),
      { numRuns: 2000 },
    );
    expect(read).toBeGreaterThan(200);
  });

  it('keep lanes as controllers, bends and pressure: in 14 bits where MIDI has them', () => {
    const steps = [0, 0.25, 0.8].map((value, i) => ({ tick: 480 * i, value, bend: 0, hold: true }));
    const ramp = [
      { tick: 0, value: 0, bend: 0, hold: false },
      { tick: 960, value: 1, bend: 0, hold: true },
    ];
    const { lanes } = readMidi(
      writeMidi(line, 140, 'Moved', [
        { control: 'cc 20', points: steps },
        { control: 'cc 74', points: steps },
        { control: 'bend', points: ramp },
        { control: 'pressure', points: steps },
      ]),
    );
    const of = (control: string) => lanes.find((lane) => lane.control === control)!.points;
    of('cc 20').forEach(({ tick, value }, i) => {
      expect(tick).toBe(steps[i].tick);
      expect(Math.abs(value - steps[i].value)).toBeLessThan(1 / 16383);
    });
    of('cc 74').forEach(({ value }, i) => {
      expect(Math.abs(value - steps[i].value)).toBeLessThan(1 / 127);
    });
    expect(of('pressure')).toHaveLength(3);
    for (const { tick, value } of of('bend')) expect(Math.abs(value - tick / 960)).toBeLessThan(0.001);
    expect(of('bend').length).toBeGreaterThan(25);
  });

  it('tell their tempo and time signature', () => {
    expect(readMidi(writeMidi(line, 128, 'x'))).toMatchObject({ timeSignature: '4/4', lanes: [] });
    expect(readMidi(writeMidi(line, 128, 'x')).tempoBpm).toBeCloseTo(128, 3);
    const waltz = [0x00, 0xff, 0x58, 0x04, 0x03, 0x02, 0x18, 0x08];
    const note = [0x00, 0x90, 0x24, 0x64, 0x60, 0x80, 0x24, 0x40];
    expect(readMidi(file([...waltz, ...note, 0x00, 0xff, 0x2f, 0x00]))).toMatchObject({
      timeSignature: '3/4',
      tempoBpm: null,
    });
  });
});
