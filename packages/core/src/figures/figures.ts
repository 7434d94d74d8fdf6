import type { SoundDocument, Targets } from '../document/index.js';
import { noteName } from '../music/index.js';
import { known, unknown, type Figure } from '../measure/index.js';
import { marginText, missText, plain, signed } from '../units/index.js';
import { lineLock, worstLock, type LineLock } from './line-lock.js';
import { beatingWords, noPhaseWords } from './no-phase-words.js';
import { beats, cannotCancel, isLock, shownGainDb, withoutPhase, type NoteLock } from './note-lock.js';
import type { PassFigures } from './pass.js';
import { judgeBassToKick, judgeEvenness, judgeHighMono, judgeLoudness, judgeLowMono, judgeTruePeak, worse, type Verdict } from './verdict.js';

/** One of the figures always in view. */
export interface JudgedFigure {
  readonly id: 'kickLock' | 'lowMono' | 'highMono' | 'loudness' | 'evenness' | 'bassToKick';
  readonly label: string;
  readonly unit: 'dB' | 'LUFS';
  readonly figure: Figure;
  /** What it is measured over and what it is held against, in a few words. */
  readonly detail: string;
  readonly verdict: Verdict;
  /** How it stands to its target: "1.3 dB to spare" where it holds, "0.02 under" where it misses it by less than its number shows; else null. */
  readonly margin: string | null;
  /** Greatest less least over the passes, where something runs free. */
  readonly spread: number | null;
}


/** The value among passes that is worst by an order, and how far the passes stand apart. */
function worstOf(figures: readonly Figure[], badness: (value: number) => number): { figure: Figure; index: number; spread: number | null } {
  let index = -1;
  figures.forEach(({ value }, i) => {
    if (value !== null && (index < 0 || badness(value) > badness(figures[index].value!))) index = i;
  });
  if (index < 0) return { figure: figures[0], index: 0, spread: null };
  const values = figures.map(({ value }) => value).filter((value) => value !== null);
  const spread = figures.length > 1 ? Math.max(...values) - Math.min(...values) : null;
  return { figure: figures[index], index, spread };
}

function noLockReason(document: SoundDocument, notes: readonly NoteLock[] = []): string {
  const meetings = notes.flatMap((note) => note.meetings);
  const lost = meetings.find(({ lock }) => beats(lock)) ?? meetings.find(({ lock }) => withoutPhase(lock));
  if (lost && isLock(lost.lock)) return (beats(lost.lock) ? beatingWords : noPhaseWords)(lost.lock.noPhase!, document.ground.a4Hz);
  const apart = meetings.find(({ lock }) => !isLock(lock) && cannotCancel(lock.reason));
  if (apart && !isLock(apart.lock)) return apart.lock.reason;
  if (document.line.notes.length === 0) return 'the line is empty';
  if (!document.kick.on || document.kick.hits.length === 0) return 'there is no kick';
  return 'no kick overlaps a note for a whole cycle';
}

/** What the kick's lock is measured over: the worst note, over how many hits it is held, and what has no common phase. */
function lockDetail(document: SoundDocument, worst: NoteLock | null, { beating, withoutPhase: lost }: LineLock): string {
  if (!worst || !isLock(worst.lock)) return `sum gain below ${Math.round(document.lock.belowHz)} Hz`;
  const held = worst.meetings.length > 1 ? `, worst of ${worst.meetings.length} hits` : '';
  const one = lost === 1 ? 'one hit' : `${lost} hits`;
  const apart = lost === 0 ? '' : beating === lost ? `; ${one} beat${lost === 1 ? 's' : ''} at different pitches` : `; ${one} without a common phase`;
  return `sum gain on ${noteName(worst.note.pitch)}${held}; best possible ${signed(worst.lock.bestSumGainDb)}; target ${signed(document.targets.sumGainDb)} or more, within ${plain(document.targets.fromBestDb)} of the best${apart}`;
}

function bassToKick({ notes }: PassFigures, document: SoundDocument): Figure {
  const middle = (document.targets.bassToKickMinDb + document.targets.bassToKickMaxDb) / 2;
  const values = notes.map((note) => note.bassToKickDb.value).filter((value) => value !== null);
  if (values.length === 0) return unknown(noLockReason(document));
  return known(values.reduce((worst, value) => (Math.abs(value - middle) > Math.abs(worst - middle) ? value : worst)));
}

/** How loudness stands to its target; where it holds and the true peak does not, how that does. */
function loudnessMargin(lufs: number | null, peakDbtp: number | null, { loudnessLufs, loudnessHoldsLu, truePeakDbtp }: Targets): string | null {
  const peakMiss = missText(peakDbtp, { most: truePeakDbtp });
  const within = lufs !== null && Math.abs(lufs - loudnessLufs) <= loudnessHoldsLu;
  if (within && peakDbtp !== null && peakDbtp > truePeakDbtp) return peakMiss && `true peak ${peakMiss}`;
  return marginText(lufs, { least: loudnessLufs - loudnessHoldsLu, most: loudnessLufs + loudnessHoldsLu }, 'LU');
}

/** How the worst lock of a line stands to its target and to the best that a turn would give; where something else keeps it from holding, only its own miss. */
function lockMargin(worst: NoteLock | null, { miss, verdict }: LineLock, { sumGainDb, fromBestDb }: Targets): string | null {
  if (verdict !== 'holds' || !worst || !isLock(worst.lock)) return miss;
  return marginText(shownGainDb(worst.lock), { least: Math.max(sumGainDb, worst.lock.bestSumGainDb - fromBestDb) });
}

/** The six figures of a sound against its targets, from one pass, or from several where phases or movers run free: the worst is shown. */
export function judge(document: SoundDocument, passes: readonly PassFigures[]): JudgedFigure[] {
  const { targets } = document;
  const worstLocks = passes.map(({ notes }) => worstLock(notes));
  const lines = passes.map(({ notes }) => lineLock(document, notes));
  const lock = worstOf(lines.map(({ worstSumGainDb }) => (worstSumGainDb !== null ? known(worstSumGainDb) : unknown(noLockReason(document, passes[0].notes)))), (value) => -value);
  const low = worstOf(passes.map((pass) => pass.mono.low), (value) => -value);
  const high = worstOf(passes.map((pass) => pass.mono.high), (value) => -value);
  const loudness = worstOf(passes.map((pass) => pass.loudness.integrated), (value) => Math.abs(value - targets.loudnessLufs));
  const peak = worstOf(passes.map((pass) => pass.truePeakDbtp), (value) => value);
  const even = worstOf(passes.map((pass) => pass.evennessDb), (value) => value);
  const level = worstOf(passes.map((pass) => bassToKick(pass, document)), (value) => Math.abs(value - (targets.bassToKickMinDb + targets.bassToKickMaxDb) / 2));
  const highHz = passes[high.index].mono.worstHighHz;
  const peakText = peak.figure.value === null ? '' : `; true peak ${plain(peak.figure.value)} dBTP, ${plain(targets.truePeakDbtp)} at most`;
  return [
    {
      id: 'kickLock', label: 'Kick lock', unit: 'dB', figure: lock.figure, spread: lock.spread,
      detail: lockDetail(document, worstLocks[lock.index], lines[lock.index]),
      margin: lockMargin(worstLocks[lock.index], lines[lock.index], targets),
      // Keeping the two apart on purpose, and making them one wave, are answers too.
      verdict: lines.reduce<Verdict>((verdict, line) => worse(verdict, line.verdict), 'unknown'),
    },
    {
      id: 'lowMono', label: 'Mono loss, low', unit: 'dB', figure: low.figure, spread: low.spread,
      detail: `below 120 Hz; target ${plain(targets.lowMonoLossDb)} or better`, verdict: judgeLowMono(low.figure, targets), margin: marginText(low.figure.value, { least: targets.lowMonoLossDb }),
    },
    {
      id: 'highMono', label: 'Mono loss, high', unit: 'dB', figure: high.figure, spread: high.spread,
      detail: `${highHz === null ? '250 Hz to 8 kHz' : `worst band ${highHz >= 1000 ? `${highHz / 1000} kHz` : `${highHz} Hz`}`}; target ${plain(targets.highMonoLossDb)} or better`,
      verdict: judgeHighMono(high.figure, targets), margin: marginText(high.figure.value, { least: targets.highMonoLossDb }),
    },
    {
      id: 'loudness', label: 'Loudness', unit: 'LUFS', figure: loudness.figure, spread: loudness.spread,
      detail: `target ${plain(targets.loudnessLufs)} ± ${plain(targets.loudnessHoldsLu)}${peakText}`,
      verdict: worse(judgeLoudness(loudness.figure, targets), judgeTruePeak(peak.figure, targets)),
      margin: loudnessMargin(loudness.figure.value, peak.figure.value, targets),
    },
    {
      id: 'evenness', label: 'Note to note', unit: 'dB', figure: even.figure, spread: even.spread,
      detail: `spread of sub level; target ${plain(targets.evennessDb)} at most`, verdict: judgeEvenness(even.figure, targets), margin: marginText(even.figure.value, { most: targets.evennessDb }),
    },
    {
      id: 'bassToKick', label: 'Bass to kick', unit: 'dB', figure: level.figure, spread: level.spread,
      detail: `level below ${Math.round(document.lock.belowHz)} Hz; target ${plain(targets.bassToKickMinDb, 0)} to ${signed(targets.bassToKickMaxDb, 0)}`,
      verdict: judgeBassToKick(level.figure, targets), margin: marginText(level.figure.value, { least: targets.bassToKickMinDb, most: targets.bassToKickMaxDb }),
    },
  ];
}
