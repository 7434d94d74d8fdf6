import { assetsOf, type NoteRose, type SoundDocument } from '@abyssal/core';
import { create } from 'zustand';
import { useDocumentStore } from '../state/document-store';
import { recording } from '../state/recordings';
import { tellError } from '../state/view-store';
import type { FromSounding, Shown, ShownFit, ToSounding } from './protocol';

export interface SoundingState {
  readonly shown: Shown | null;
  /** The document that `shown` was measured of. */
  readonly of: SoundDocument | null;
  /** The roses of the notes of what is shown, null until they are found. */
  readonly roses: readonly (NoteRose | null)[] | null;
  /** What may be done about the fit of what is shown, null until it is found. */
  readonly fit: ShownFit | null;
  readonly working: boolean;
  readonly failed: string | null;
}

const PAUSE_MS = 80;

/** What was measured of the open sound, at most one change behind. */
export const useSounding = create<SoundingState>(() => ({ shown: null, of: null, roses: null, fit: null, working: false, failed: null }));

let worker: Worker | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;
let job = 0;
let measured: SoundDocument | null = null;
const sent = new Set<string>();

const post = (message: ToSounding) => { worker?.postMessage(message); };

async function measure(document: SoundDocument): Promise<void> {
  const mine = ++job;
  useSounding.setState({ working: true });
  for (const hash of assetsOf(document)) {
    if (sent.has(hash)) continue;
    const { channels, sampleRateHz } = await recording(hash);
    sent.add(hash);
    post({ kind: 'assets', assets: [[hash, { channels, sampleRateHz }]] });
  }
  if (mine !== job) return;
  measured = document;
  post({ kind: 'sound', job: mine, document });
}

function take({ data }: MessageEvent<FromSounding>): void {
  if (!('job' in data) || data.job !== job) return;
  if (data.kind === 'shown') useSounding.setState({ shown: data.shown, of: measured, roses: null, fit: null, working: false, failed: null });
  else if (data.kind === 'roses') useSounding.setState({ roses: data.roses });
  else if (data.kind === 'fit') useSounding.setState({ fit: data.fit });
  else if (data.kind === 'failed') useSounding.setState({ working: false, failed: data.message });
}

const ask = (document: SoundDocument) => { measure(document).catch((error: unknown) => { useSounding.setState({ working: false }); tellError(error); }); };

/** Begins to measure the open sound, and again after every pause in its changes. Returns how to stop. */
export function keepSounding(): () => void {
  worker ??= new Worker(new URL('./sounding.worker.ts', import.meta.url), { type: 'module' });
  worker.onmessage = take;
  const { document } = useDocumentStore.getState();
  if (document) ask(document);
  const stop = useDocumentStore.subscribe((state, before) => {
    if (!state.document || state.document === before.document) return;
    clearTimeout(timer);
    const next = state.document;
    if (before.document === null) ask(next);
    else timer = setTimeout(() => { ask(next); }, PAUSE_MS);
  });
  return () => {
    stop();
    clearTimeout(timer);
    job++;
    post({ kind: 'leave', job });
    useSounding.setState({ shown: null, of: null, roses: null, fit: null, working: false });
  };
}
