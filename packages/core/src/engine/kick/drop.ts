import type { MadeKick } from '../../document/index.js';
import { bent } from '../../dsp/index.js';

/**
 * A kick's drop has two parts, each with a bend. By frequency the pitch goes from `startHz` to `kneeHz` and
 * on to `tailHz`, evenly in semitones but for the
 * bends; a second part of no length leaves the knee out. By phase the steady tail's own phase, f·t cycles, is
 * displaced by D·e(t) cycles, where e goes
 * from 1 to `kneePct` and on to 0: the frequency heard is f − D·e′(t), and once e is 0 the phase is what it
 * would be without any drop.
 */
export function dropEndMs({ dropMs, settleMs }: MadeKick): number {
  return dropMs + settleMs;
}

/** Share e of the displacement that is left at a time in ms, 1 to 0. */
export function displacementLeft(made: MadeKick, ms: number): number {
  const { dropMs, dropBend, settleMs, settleBend } = made;
  const knee = settleMs > 0 ? made.kneePct / 100 : 0;
  if (ms < dropMs) return 1 + (knee - 1) * bent(Math.max(0, ms) / dropMs, dropBend);
  if (ms >= dropMs + settleMs) return 0;
  return knee * (1 - bent((ms - dropMs) / settleMs, settleBend));
}

/** Pitch in hertz at a time in ms, as the drop has it; below 0 where the wave turns back on itself. */
export function dropHz(made: MadeKick, ms: number): number {
  const { tailHz, startHz, kneeHz, dropMs, settleMs } = made;
  if (ms >= dropEndMs(made)) return tailHz;
  if (made.dropBy === 'phase') {
    const h = 0.01;
    return (
      tailHz - (made.dropCycles * (displacementLeft(made, ms + h) - displacementLeft(made, ms)) * 1000) / h
    );
  }
  const knee = settleMs > 0 ? kneeHz : tailHz;
  return ms < dropMs
    ? knee * (startHz / knee) ** (1 - bent(ms / dropMs, made.dropBend))
    : tailHz * (knee / tailHz) ** (1 - bent((ms - dropMs) / settleMs, made.settleBend));
}

/**
 * Whether the wave of a drop by phase runs backwards at any time: its frequency then passes through 0, and
 * the kick loses its pitch there.
 */
export function turnsBack(made: MadeKick): boolean {
  if (made.dropBy !== 'phase' || made.body !== 'tone') return false;
  const end = dropEndMs(made);
  for (let k = 0; k < 400; k++) if (dropHz(made, (end * k) / 400) < 0) return true;
  return false;
}
