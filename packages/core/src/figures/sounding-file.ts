import { isUnheard, type SoundDocument } from '../document/index.js';
import { THIRD_OCTAVES_HZ, type Click, type MonoReport } from '../measure/index.js';
import { noteName } from '../music/index.js';
import { barBeat } from '../units/index.js';
import { systemsOf, type Heard } from '../translation/index.js';
import { worstFirst, type JudgedFigure } from './figures.js';
import { FIGURES, type FigureId } from './kinds/index.js';
import type { NoteFigures } from './passes/pass.js';
import type { NoteOnSystems } from './passes/systems-by-notes.js';
import type { Verdict } from './passes/verdict.js';
import type { KickFigures } from './kick-figures.js';
import type { ToneFigures } from './tone/tone-of.js';

export const SOUNDING_FORMAT = 'abyssal.sounding';
export const SOUNDING_VERSION = 1;

/** What is measured of a sound, as it is kept and given out: plain JSON. What cannot be told is null, with the reason. */
export interface SoundingFile {
  readonly format: typeof SOUNDING_FORMAT;
  readonly formatVersion: typeof SOUNDING_VERSION;
  readonly name: string;
  readonly key: string;
  readonly tempoBpm: number;
  readonly bars: number;
  /** Passes that were measured: several where something runs free; then the worst is judged. */
  readonly passes: number;
  /** Every figure against its target, the worst first. */
  readonly figures: readonly {
    readonly id: FigureId;
    readonly label: string;
    readonly unit: string;
    readonly value: number | null;
    readonly reason: string | null;
    readonly outOf: number | null;
    readonly verdict: Verdict;
    readonly detail: string;
    readonly margin: string | null;
    readonly means: string;
    readonly spread: number | null;
  }[];
  readonly systems: readonly {
    readonly id: string;
    readonly name: string;
    readonly matters: boolean;
    readonly notes: readonly {
      readonly note: string;
      readonly at: string;
      readonly verdict: Heard | null;
      readonly marginDb: number | null;
      readonly reason: string | null;
    }[];
  }[];
  readonly mono: {
    readonly lowLossDb: number | null;
    readonly bands: readonly {
      readonly centreHz: number;
      readonly lossDb: number | null;
      readonly correlation: number | null;
    }[];
  };
  readonly kick: {
    readonly tailHz: number | null;
    readonly tailNote: string | null;
    readonly lengthS: number | null;
  };
  readonly notes: readonly {
    readonly note: string;
    readonly at: string;
    readonly subLevelDb: number | null;
    readonly subLufs: number | null;
    readonly offPitchCents: number | null;
    readonly wobbleHz: number | null;
    readonly askedHz: readonly number[];
  }[];
  readonly againstKick: readonly { readonly centreHz: number; readonly db: number | null }[];
  readonly glare: readonly { readonly hz: number; readonly db: number }[];
  readonly clicks: readonly { readonly timeS: number; readonly prominenceDb: number }[];
  readonly masking: readonly {
    readonly name: string;
    readonly share: number | null;
    readonly hiddenHz: readonly (readonly [number, number])[];
  }[];
  readonly spectrum: { readonly centresHz: readonly number[]; readonly bassDb: readonly number[] };
}

/** What a sounding file is made of. */
export interface SoundingParts {
  readonly passes: number;
  readonly figures: readonly JudgedFigure[];
  readonly report: readonly JudgedFigure[];
  readonly heard: readonly NoteOnSystems[];
  readonly mono: MonoReport;
  readonly kick: KickFigures;
  readonly notes: readonly NoteFigures[];
  readonly clicks: readonly Click[];
  readonly tone: ToneFigures;
}

/** Numbers as they are kept: as fine as anybody needs them, and no −0, which JSON does not have. */
const kept = (value: number | null, digits = 3) =>
  value === null ? null : Number(value.toFixed(digits)) + 0;

/** What was measured of a sound as a file. */
export function soundingFile(document: SoundDocument, parts: SoundingParts): SoundingFile {
  const { passes, figures, report, heard, mono, kick, notes, clicks, tone } = parts;
  const { ground, systems } = document;
  const place = ({ note }: { readonly note: { readonly tick: number; readonly pitch: number } }) => ({
    note: noteName(note.pitch),
    at: barBeat(note.tick),
  });
  return {
    format: SOUNDING_FORMAT,
    formatVersion: SOUNDING_VERSION,
    name: document.name,
    key: `${ground.key} ${ground.scale}`,
    tempoBpm: ground.tempoBpm,
    bars: ground.bars,
    passes,
    figures: worstFirst([...figures, ...report]).map(
      ({ id, figure, verdict, detail, margin, spread, outOf = null }) => {
        const { label, unit, means } = FIGURES[id];
        const value = kept(figure.value);
        const reason = figure.reason ?? null;
        return {
          id,
          label,
          unit,
          value,
          reason,
          outOf,
          verdict,
          detail,
          margin,
          means,
          spread: kept(spread),
        };
      },
    ),
    systems: systemsOf(document).map(({ id, name }, s) => ({
      id,
      name,
      matters: !systems.leftOut.includes(id),
      notes: heard.map((each) => ({
        ...place(each),
        verdict: each.heard?.[s].verdict ?? null,
        marginDb: kept(each.heard?.[s].marginDb ?? null, 2),
        reason: each.reason,
      })),
    })),
    mono: {
      lowLossDb: kept(mono.low.value),
      bands: mono.bands.map(({ centreHz, lossDb, correlation }) => ({
        centreHz,
        lossDb: kept(lossDb.value),
        correlation: kept(correlation.value),
      })),
    },
    kick: {
      tailHz: kept(kick.tail?.hz ?? null),
      tailNote: kick.tail?.note ?? null,
      lengthS: kept(kick.lengthS),
    },
    notes: notes.map((each, n) => ({
      ...place(each),
      subLevelDb: kept(each.subLevelDb.value, 2),
      subLufs: kept(tone.notes[n].subLufs.value, 2),
      offPitchCents: kept(each.offPitchCents.value, 1),
      wobbleHz: kept(tone.notes[n].wobbleHz.value),
      askedHz: tone.notes[n].askedHz.map((hz) => kept(hz)!),
    })),
    againstKick: tone.againstKick.map(({ centreHz, db }) => ({ centreHz, db: kept(db, 2) })),
    glare: tone.glare.peaks.map(({ hz, db }) => ({ hz: kept(hz, 0)!, db: kept(db, 2)! })),
    clicks: clicks.map(({ timeS, prominenceDb }) => ({
      timeS: kept(timeS, 4)!,
      prominenceDb: kept(prominenceDb, 1)!,
    })),
    masking: tone.masking.map(({ name, share, hidden }) => ({
      name,
      share: kept(share),
      hiddenHz: hidden.map(([from, to]) => [kept(from, 0)!, kept(to, 0)!] as const),
    })),
    spectrum: {
      centresHz: THIRD_OCTAVES_HZ.map((hz) => kept(hz, 2)!),
      bassDb: Array.from(tone.thirdsDb, (db) => kept(db, 2)!),
    },
  };
}

/** Whether a value is a sounding of this version: enough to keep it and to show it. */
export function isSoundingFile(value: unknown): value is SoundingFile {
  if (typeof value !== 'object' || value === null) return false;
  const file = value as Partial<SoundingFile>;
  const lists = [file.figures, file.systems, file.notes, file.clicks, file.glare, file.masking];
  return (
    file.format === SOUNDING_FORMAT &&
    file.formatVersion === SOUNDING_VERSION &&
    lists.every((list) => Array.isArray(list)) &&
    Array.isArray(file.mono?.bands) &&
    Array.isArray(file.spectrum?.bassDb)
  );
}

/** What of a sound its sounding depends on, as text: two sounds with the same text have the same sounding. */
export function measuredText(document: SoundDocument): string {
  const measured = Object.entries(document).filter(([part]) => !isUnheard(part));
  // The version of what is kept is part of it: another one is measured anew.
  return JSON.stringify([SOUNDING_VERSION, ...measured]);
}
