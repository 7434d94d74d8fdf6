import type midiFile from 'midi-file';
import { MOST_POINTS, type LanePoint } from '../document/index.js';
import { bent } from '../dsp/index.js';
import type { MidiControl } from './midi-stream.js';

/** A lane as a MIDI file has it: the control that it is told by. */
export interface MidiLane {
  readonly control: MidiControl;
  readonly points: readonly LanePoint[];
}

type MidiEvent = midiFile.MidiEvent;
interface Timed {
  readonly time: number;
  readonly event: MidiEvent;
}

/** Ticks between two values of what runs on from one point to the next: a 1/64. */
const EVERY_TICKS = 30;
const FULL = 16383;
/** Controllers from here on have no fine half. */
const COARSE_ONLY = 32;

/** Where a lane stands at the places where it is told: at each point, and on the way from one to the next. */
function* places(points: readonly LanePoint[]): Generator<[number, number]> {
  for (const [i, from] of points.entries()) {
    yield [Math.round(from.tick), from.value];
    const to = points.at(i + 1);
    if (!to || from.hold) continue;
    for (let tick = from.tick + EVERY_TICKS; tick < to.tick; tick += EVERY_TICKS) {
      const t = (tick - from.tick) / (to.tick - from.tick);
      yield [Math.round(tick), from.value + (to.value - from.value) * bent(t, from.bend)];
    }
  }
}

/** A value as the events of a control: 14 bits for bends and for controllers that have a fine half, else 7. */
function eventsOf(control: MidiControl, value: number): MidiEvent[] {
  const common = { deltaTime: 0, channel: 0 };
  if (control === 'bend') return [{ ...common, type: 'pitchBend', value: Math.round(value * FULL) - 8192 }];
  if (control === 'pressure' || control === 'note pressure')
    return [{ ...common, type: 'channelAftertouch', amount: Math.round(value * 127) }];
  const controllerType = Number(control.slice(3));
  const cc = (type: number, amount: number): MidiEvent => ({
    ...common,
    type: 'controller',
    controllerType: type,
    value: amount,
  });
  if (controllerType >= COARSE_ONLY) return [cc(controllerType, Math.round(value * 127))];
  const whole = Math.round(value * FULL);
  return [cc(controllerType, whole >> 7), cc(controllerType + COARSE_ONLY, whole & 0x7f)];
}

/** The events of lanes, at their ticks; what does not change is told once. */
export function laneEvents(lanes: readonly MidiLane[]): Timed[] {
  return lanes.flatMap(({ control, points }) => {
    let last = '';
    return [...places(points)].flatMap(([time, value]) => {
      const events = eventsOf(control, value);
      const said = JSON.stringify(events);
      if (said === last) return [];
      last = said;
      return events.map((event) => ({ time, event }));
    });
  });
}

/** Gathers what the controls of a file say, by control. */
export class LaneGatherer {
  private readonly found = new Map<MidiControl, Map<number, number>>();
  private readonly coarse = new Map<number, number>();

  private put(control: MidiControl, tick: number, value: number): void {
    let lane = this.found.get(control);
    if (!lane) this.found.set(control, (lane = new Map<number, number>()));
    lane.set(tick, value);
  }

  /** Takes an event at a tick; says whether it was one of a control. */
  take(event: MidiEvent, tick: number): boolean {
    if (event.type === 'pitchBend') this.put('bend', tick, (event.value + 8192) / FULL);
    else if (event.type === 'channelAftertouch') this.put('pressure', tick, event.amount / 127);
    else if (event.type === 'noteAftertouch') this.put('note pressure', tick, event.amount / 127);
    else if (event.type === 'controller' && event.controllerType < 120) {
      const { controllerType: type, value } = event;
      const fine = type >= COARSE_ONLY && type < 2 * COARSE_ONLY && this.coarse.has(type - COARSE_ONLY);
      if (type < COARSE_ONLY) this.coarse.set(type, value);
      if (fine)
        this.put(
          `cc ${type - COARSE_ONLY}`,
          tick,
          ((this.coarse.get(type - COARSE_ONLY)! << 7) | value) / FULL,
        );
      else this.put(`cc ${type}`, tick, value / 127);
    } else return false;
    return true;
  }

  /** What was gathered as lanes from a tick on, in steps; what lies at or after `end` is left out. */
  lanes(offset: number, end: number): MidiLane[] {
    return [...this.found].flatMap(([control, values]): MidiLane[] => {
      const points = [...values]
        .map(([tick, value]) => ({
          tick: tick - offset,
          value: Math.min(1, Math.max(0, Number(value.toFixed(5)))),
          bend: 0,
          hold: true,
        }))
        .filter(({ tick }) => tick >= 0 && tick < end)
        .sort((a, b) => a.tick - b.tick)
        .slice(0, MOST_POINTS);
      return points.length > 0 ? [{ control, points }] : [];
    });
  }
}
