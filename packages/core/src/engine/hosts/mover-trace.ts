import type { Mover, SoundDocument } from '../../document/index.js';
import { eventList, NOTE_OFF, NOTE_ON } from './events.js';
import { seedOf } from './assembly.js';
import { MoverBank } from '../movers/mover-bank.js';

/** Values in a second of a trace. */
const TRACE_RATE_HZ = 400;
const STEPS_PER_VALUE = 4;

/** A mover's value over a loop as it runs round, 0 to 1, evenly spaced from the loop's start. */
export interface MoverTrace {
  readonly id: Mover['id'];
  readonly values: Float32Array;
}

/**
 * What every mover does over the loop, for drawing: the second round, so that free and released movers stand
 * where they will.
 */
export function moverTraces(document: SoundDocument): MoverTrace[] {
  const rate = TRACE_RATE_HZ * STEPS_PER_VALUE;
  const events = eventList(document, rate);
  const bank = new MoverBank(document.movers, document.ground.tempoBpm, rate, seedOf(document, 0));
  const count = Math.max(2, Math.floor(events.loopFrames / STEPS_PER_VALUE));
  const traces = document.movers.map(({ id }) => ({ id, values: new Float32Array(count) }));
  let held = 0;
  for (let round = 0; round < 2; round++) {
    let next = 0;
    for (let i = 0; i < count; i++) {
      for (; next < events.frame.length && events.frame[next] <= i * STEPS_PER_VALUE; next++) {
        if (events.type[next] === NOTE_ON) {
          bank.noteOn(events.tie[next] === 1 && held > 0);
          held++;
        } else if (events.type[next] === NOTE_OFF && held > 0 && --held === 0) bank.noteOff();
      }
      bank.step(STEPS_PER_VALUE);
      if (round === 1) for (let m = 0; m < traces.length; m++) traces[m].values[i] = bank.value[m];
    }
  }
  return traces;
}
