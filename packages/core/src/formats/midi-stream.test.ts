import { bendOf, MidiStream, stepsOf } from './midi-stream.js';

// Values from the MIDI 1.0 Detailed Specification (document 4.2), tables I to III, written down from memory.
describe('a stream of MIDI', () => {
  const read = (...bytes: number[]) => new MidiStream().take(bytes);
  const values = (...bytes: number[]) =>
    read(...bytes).map((said) => (said.what === 'control' ? said.value : said.velocity));

  it('tells notes, of which one at velocity 0 is an end', () => {
    expect(read(0x92, 0x3c, 0x40, 0x92, 0x3c, 0x00, 0x82, 0x3c, 0x40)).toEqual([
      { what: 'note', channel: 2, pitch: 60, velocity: 64 },
      { what: 'note', channel: 2, pitch: 60, velocity: 0 },
      { what: 'note', channel: 2, pitch: 60, velocity: 0 },
    ]);
  });

  it('goes on under a running status, past real-time bytes, and ends it with a system message', () => {
    expect(values(0x90, 0x3c, 0x40, 0x3e, 0x41, 0xf8, 0x40, 0xfe, 0x42)).toEqual([64, 65, 66]);
    // What follows a song position without a status means nothing.
    expect(values(0x90, 0x3c, 0x40, 0xf2, 0x01, 0x02, 0x3e, 0x41)).toEqual([64]);
    expect(values(0xf0, 0x7e, 0x3c, 0x40, 0xf7, 0x3c, 0x40, 0xb0, 0x4a, 0x7f)).toEqual([1]);
  });

  it('takes a message in pieces', () => {
    const stream = new MidiStream();
    expect(stream.take([0xb0])).toEqual([]);
    expect(stream.take([0x07])).toEqual([]);
    expect(stream.take([0x7f, 0x07])).toEqual([
      { what: 'control', channel: 0, control: 'cc 7', value: 1, raw: 127 },
    ]);
    expect(stream.take([0x00])).toMatchObject([{ control: 'cc 7', value: 0 }]);
  });

  it('joins the two halves of a 14-bit controller, once the fine one has been heard', () => {
    const stream = new MidiStream();
    expect(stream.take([0xb0, 0x01, 0x40])).toMatchObject([{ control: 'cc 1', value: 64 / 127 }]);
    expect(stream.take([0xb0, 0x21, 0x7f])).toMatchObject([
      { control: 'cc 1', value: ((64 << 7) | 127) / 16383 },
    ]);
    // Another coarse half begins at a fine one of 0.
    expect(stream.take([0xb0, 0x01, 0x41])).toMatchObject([{ control: 'cc 1', value: (65 << 7) / 16383 }]);
    expect(stream.take([0xb0, 0x01, 0x7f, 0x21, 0x7f]).at(-1)).toMatchObject({ value: 1 });
    // Switches and sound controllers from 64 on have no fine half.
    expect(stream.take([0xb0, 0x40, 0x7f])).toMatchObject([{ control: 'cc 64', value: 1 }]);
  });

  it('has a bend at rest at 2000H, with both ends all the way', () => {
    expect([bendOf(0, 0), bendOf(0, 0x40), bendOf(0x7f, 0x7f)]).toEqual([0, 0.5, 1]);
    expect(read(0xe0, 0x00, 0x40)).toMatchObject([{ control: 'bend', value: 0.5 }]);
  });

  it('tells pressure of the channel and of notes; a program change says nothing here', () => {
    expect(read(0xd3, 0x7f, 0xa1, 0x3c, 0x00, 0xc0, 0x05)).toEqual([
      { what: 'control', channel: 3, control: 'pressure', value: 1, raw: 127 },
      { what: 'control', channel: 1, control: 'note pressure', value: 0, raw: 0 },
    ]);
  });

  it('reads relative controls in the three ways in use', () => {
    expect([1, 63, 64, 127].map((raw) => stepsOf(raw, 'two’s complement'))).toEqual([1, 63, -64, -1]);
    expect([65, 63, 64].map((raw) => stepsOf(raw, 'from 64'))).toEqual([1, -1, 0]);
    expect([1, 65, 0x43].map((raw) => stepsOf(raw, 'sign bit'))).toEqual([1, -1, -3]);
  });
});
