import { assetsOf, type LineRoses, type SoundDocument } from '@abyssal/core';
import { proxy, wrap, type Remote } from 'comlink';
import { create } from 'zustand';
import { deltaOf } from '../state/delta';
import { useDocumentStore } from '../state/document-store';
import { recording } from '../state/recordings';
import { tellError } from '../state/view-store';
import { withSameParts } from './same-parts';
import { soundsAlike } from './sounds-alike';
import type { Meter } from './sounding.worker';
import type { Look, LowTrace, Report, Shown, ShownFit, SoundingTold } from './told';

export interface SoundingState {
  readonly shown: Shown | null;
  /** The rest of the report on what is shown, null until it is found. */
  readonly report: Report | null;
  /** The document that `shown` was measured of. */
  readonly of: SoundDocument | null;
  /**
   * Kick and bass, and the document that they are of: ahead of all else while Lock is open, else part of
   * `shown`.
   */
  readonly look: Look | null;
  readonly lookOf: SoundDocument | null;
  /** The roses of the meetings that are looked at, null until they are found. */
  readonly roses: LineRoses | null;
  /** What may be done about the fit of what is shown, as far as it is found; null before. */
  readonly fit: ShownFit | null;
  /** Kick and bass with each proposal applied, by its id. */
  readonly fitLows: ReadonlyMap<string, LowTrace>;
  /** Share of the proposals that is rendered and measured, 0 to 1. */
  readonly fitDone: number;
  readonly working: boolean;
  /** Share of the figures that is measured, 0 to 1, and since when they are, in ms since 1970. */
  readonly done: number;
  readonly since: number;
  /** Whether measuring was stopped by hand: what is shown is of an earlier state. */
  readonly stopped: boolean;
  readonly failed: string | null;
}

const PAUSE_MS = 80;

/** What was measured of the open sound, at most one change behind. */
const NO_FIT = { fit: null, fitLows: new Map<string, LowTrace>(), fitDone: 0 };
export const useSounding = create<SoundingState>(() => ({
  shown: null,
  report: null,
  of: null,
  look: null,
  lookOf: null,
  roses: null,
  ...NO_FIT,
  working: false,
  done: 0,
  since: 0,
  stopped: false,
  failed: null,
}));

let lockFirst = false;

/** Has kick and bass looked at before anything else is measured, until what it returns is called. */
export function lookAtLockFirst(): () => void {
  lockFirst = true;
  return () => {
    lockFirst = false;
  };
}

let meter: Remote<Meter> | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;
/** The document whose measurement is shown; what another one tells is late. */
let measured: SoundDocument | null = null;
/** The document that the meter was told last. */
let told: SoundDocument | null = null;
const sent = new Set<string>();

/** The worker that measures; it is made when it is first asked for. */
export const meterOf = (): Remote<Meter> =>
  (meter ??= wrap<Meter>(new Worker(new URL('./sounding.worker.ts', import.meta.url), { type: 'module' })));

async function measure(document: SoundDocument): Promise<void> {
  measured = document;
  const meter = meterOf();
  useSounding.setState({ working: true, done: 0, since: Date.now(), stopped: false });
  for (const hash of assetsOf(document)) {
    if (sent.has(hash)) continue;
    const { channels, sampleRateHz } = await recording(hash);
    sent.add(hash);
    await meter.take([[hash, { channels, sampleRateHz }]]);
  }
  if (measured !== document) return;
  const tell = (found: SoundingTold) => {
    if (measured === document) take(found, document);
  };
  try {
    const delta = deltaOf(told, document);
    told = document;
    await meter.measure(delta, lockFirst, proxy(tell));
  } catch (error) {
    const failed = error instanceof Error ? error.message : String(error);
    if (measured === document) useSounding.setState({ working: false, failed });
  }
}

function take(told: SoundingTold, of: SoundDocument): void {
  if (told.kind === 'look')
    useSounding.setState({ look: told.look, lookOf: of, roses: told.roses, ...NO_FIT });
  // Roses that belong to a first look at the same document stand until those of the whole measurement are
  // there.
  else if (told.kind === 'shown')
    useSounding.setState(({ shown: before, lookOf, roses }) => {
      const shown = withSameParts(before, told.shown);
      return {
        shown,
        report: null,
        of,
        look: shown,
        lookOf: of,
        roses: lookOf === of ? roses : null,
        ...NO_FIT,
        working: false,
        failed: null,
      };
    });
  else if (told.kind === 'progress') useSounding.setState({ done: told.done });
  else if (told.kind === 'report') useSounding.setState({ report: told.report });
  else if (told.kind === 'roses') useSounding.setState({ roses: told.roses });
  else
    useSounding.setState(({ fitLows }) => ({
      fit: told.fit,
      fitLows: new Map([...fitLows, ...told.lows]),
      fitDone: told.done,
    }));
}

const ask = (document: SoundDocument) => {
  measure(document).catch((error: unknown) => {
    useSounding.setState({ working: false });
    tellError(error);
  });
};

/** Stops measuring; what was measured last stays, until the next change or `measureNow`. */
export function stopMeasuring(): void {
  measured = null;
  void meter?.leave();
  useSounding.setState({ working: false, stopped: true });
}

/** Measures the open sound after it was stopped. */
export function measureNow(): void {
  const { document } = useDocumentStore.getState();
  if (document) ask(document);
}

/** Begins to measure the open sound, and again after every pause in its changes. Returns how to stop. */
export function keepSounding(): () => void {
  const { document } = useDocumentStore.getState();
  if (document) ask(document);
  const stop = useDocumentStore.subscribe((state, before) => {
    if (
      !state.document ||
      state.document === before.document ||
      (before.document && soundsAlike(state.document, before.document))
    )
      return;
    clearTimeout(timer);
    const next = state.document;
    if (before.document === null) ask(next);
    else {
      // So that the next measurement need not wait for a step of it.
      void meter?.leaveFit();
      timer = setTimeout(() => {
        ask(next);
      }, PAUSE_MS);
    }
  });
  return () => {
    stop();
    clearTimeout(timer);
    measured = null;
    void meter?.leave();
    useSounding.setState({
      shown: null,
      report: null,
      of: null,
      look: null,
      lookOf: null,
      roses: null,
      ...NO_FIT,
      working: false,
      stopped: false,
    });
  };
}
