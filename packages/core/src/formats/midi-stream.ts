/** What a controller has said: a note, or a control that went to a value or by so much. */
export type MidiSaid =
  | {
      readonly what: 'note';
      readonly channel: number;
      readonly pitch: number;
      /** 0 ends it. */ readonly velocity: number;
    }
  | {
      readonly what: 'control';
      readonly channel: number;
      readonly control: MidiControl;
      /** 0 to 1. */
      readonly value: number;
      /** The seven bits of a controller as they came, for one that is told in steps. */
      readonly raw: number;
    };

/**
 * A control by its kind: a controller by its number (`cc 74`; with 14 bits it is that of the coarse one),
 * `bend`, `pressure` of the channel, `pressure of a note` (polyphonic, any note).
 */
export type MidiControl = `cc ${number}` | 'bend' | 'pressure' | 'note pressure';

/** Data bytes of each channel message, by its upper four bits (MIDI 1.0, table I). */
const LENGTHS: Readonly<Record<number, number>> = { 8: 2, 9: 2, 10: 2, 11: 2, 12: 1, 13: 1, 14: 2 };
/** Data bytes of the system common messages F1 to F6. */
const SYSTEM: Readonly<Record<number, number>> = { 0xf1: 1, 0xf2: 2, 0xf3: 1 };
const REAL_TIME = 0xf8;
const SYSEX = 0xf0;
const SYSEX_END = 0xf7;
/** Controllers 0 to 31 are the coarse seven bits of those whose fine ones are 32 to 63. */
const FINE = 32;

/**
 * Reads the bytes of a controller as MIDI 1.0 has them: running status, real-time bytes in the midst of a
 * message, system exclusive skipped; a note on at velocity 0 is a note off. A controller whose fine half (32
 * above it) has been heard is told with 14 bits.
 */
export class MidiStream {
  private status = 0;
  private wants = 0;
  private skips = false;
  private readonly data: number[] = [];
  /** The coarse and the fine half of each 14-bit controller, by channel and number. */
  private readonly halves = new Map<number, { coarse: number; fine: number | null }>();

  /** Takes bytes as they come, a message or a part of one or several; gives what they say. */
  take(bytes: Iterable<number>): MidiSaid[] {
    const said: MidiSaid[] = [];
    for (const byte of bytes) {
      if (byte >= REAL_TIME) continue;
      if (byte >= 0x80) this.begin(byte);
      else if (!this.skips && this.wants > 0) {
        this.data.push(byte);
        if (this.data.length < this.wants) continue;
        const found = this.say();
        if (found) said.push(found);
        this.data.length = 0;
        // A channel message may follow without its status; a system one may not.
        if (this.status >= 0xf0) this.wants = 0;
      }
    }
    return said;
  }

  private begin(status: number): void {
    this.data.length = 0;
    this.skips = status === SYSEX;
    this.status = status === SYSEX_END ? 0 : status;
    this.wants = status >= 0xf0 ? (SYSTEM[status] ?? 0) : LENGTHS[status >> 4];
  }

  private say(): MidiSaid | null {
    const [first, second] = this.data;
    const channel = this.status & 0x0f;
    const control = (which: MidiControl, value: number, raw: number): MidiSaid => ({
      what: 'control',
      channel,
      control: which,
      value,
      raw,
    });
    switch (this.status >> 4) {
      case 8:
        return { what: 'note', channel, pitch: first, velocity: 0 };
      case 9:
        return { what: 'note', channel, pitch: first, velocity: second };
      case 10:
        return control('note pressure', second / 127, second);
      case 11:
        return this.controller(channel, first, second, control);
      case 13:
        return control('pressure', first / 127, first);
      case 14:
        return control('bend', bendOf(first, second), second);
      default:
        return null;
    }
  }

  private controller(
    channel: number,
    number: number,
    value: number,
    control: (which: MidiControl, value: number, raw: number) => MidiSaid,
  ): MidiSaid {
    const fine = number >= FINE && number < 2 * FINE;
    const coarse = fine ? number - FINE : number;
    if (number >= 2 * FINE) return control(`cc ${number}`, value / 127, value);
    const key = channel * 128 + coarse;
    const half = this.halves.get(key) ?? { coarse: 0, fine: null };
    this.halves.set(key, half);
    if (fine) half.fine = value;
    else {
      half.coarse = value;
      // MIDI 1.0: a coarse half that comes sets the fine one to 0 until that comes.
      if (half.fine !== null) half.fine = 0;
    }
    return control(
      `cc ${coarse}`,
      half.fine === null ? value / 127 : ((half.coarse << 7) | half.fine) / 16383,
      half.coarse,
    );
  }
}

/**
 * Place of a pitch bend, 0 to 1, of its two halves, the fine one first; 2000H, at rest, is exactly in the middle
 * (MIDI 1.0: 0 to 3FFFH round 2000H).
 */
export function bendOf(fine: number, coarse: number): number {
  const at = ((coarse << 7) | fine) - 0x2000;
  return 0.5 + at / (at < 0 ? 2 * 0x2000 : 2 * (0x2000 - 1));
}

/** How a relative control tells its steps. */
export type RelativeWay = 'two’s complement' | 'from 64' | 'sign bit';

/**
 * Steps of a relative control's seven bits: as two's complement (1 is one up, 127 one down), about 64 (65 up, 63
 * down), or with the sign in bit 6 (1 up, 65 down). Common practice; MIDI 1.0 has the sign only of its data
 * increment and decrement.
 */
export function stepsOf(raw: number, way: RelativeWay): number {
  if (way === 'from 64') return raw - 64;
  if (way === 'sign bit') return raw & 0x40 ? -(raw & 0x3f) : raw;
  return raw < 64 ? raw : raw - 128;
}
