import { matchedGains, type ComparedLoop, type SoundDocument } from '@abyssal/core';
import { create } from 'zustand';
import { audio } from '../audio/audio-host';
import { useDocumentStore } from '../state/document-store';
import { tellError } from '../state/view-store';
import { startCompared, startComparedRecording, wasCancelled, type Render } from './bounce';
import { useSounding } from './sounding-store';

/** What the open sound is set against: B of A⇄B. */
export type Other =
  | {
      readonly kind: 'state' | 'sound';
      readonly id: string;
      readonly name: string;
      readonly document: SoundDocument;
    }
  | {
      readonly kind: 'wav';
      readonly id: string;
      readonly name: string;
      readonly recording: { readonly channels: readonly Float32Array[]; readonly sampleRateHz: number };
    };

export interface OtherState {
  readonly other: Other | null;
  /** Share of it that is rendered, 0 to 1; null while nothing is under way. */
  readonly done: number | null;
  /** What is measured of it, null until it is rendered. */
  readonly compared: Omit<ComparedLoop, 'loop'> | null;
  readonly heard: 'A' | 'B';
  /** By how much the sound itself is lowered to be as loud, dB. */
  readonly ownDb: number;
}

const NONE: OtherState = { other: null, done: null, compared: null, heard: 'A', ownDb: 0 };
export const useOther = create<OtherState>(() => NONE);

/** The tempo or the backing parts have to rest for so long before it is rendered anew, ms. */
const PAUSE_MS = 400;

let rendering: Render<ComparedLoop> | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;

/** What of the open sound the other is rendered under. */
const under = ({ ground, backing }: SoundDocument) => JSON.stringify([ground.tempoBpm, backing]);
let renderedUnder = '';

function match(): void {
  const { compared } = useOther.getState();
  const own = useSounding.getState().shown?.figures.find(({ id }) => id === 'loudness')?.figure.value ?? null;
  const gains = matchedGains(own, compared?.lufs ?? null);
  audio.match(compared ? gains : { ownDb: 0, otherDb: 0 });
  useOther.setState({ ownDb: compared ? gains.ownDb : 0 });
}

async function render(): Promise<void> {
  const { other } = useOther.getState();
  const { document } = useDocumentStore.getState();
  rendering?.cancel();
  if (!other || !document) return;
  renderedUnder = under(document);
  useOther.setState({ done: 0 });
  const mine =
    other.kind === 'wav'
      ? startComparedRecording(document, other.recording, audio.sampleRateHz)
      : startCompared(other.document, document, audio.sampleRateHz, (done) => {
          if (rendering === mine) useOther.setState({ done });
        });
  rendering = mine;
  try {
    const { loop, ...compared } = await mine.result;
    if (rendering !== mine) return;
    audio.takeOther(loop);
    useOther.setState({ done: null, compared });
    match();
    audio.hearOther(useOther.getState().heard === 'B');
  } catch (error) {
    if (wasCancelled(error)) return;
    if (rendering === mine) setOther(null);
    tellError(error);
  }
}

/** Sets another against the open sound; null for none. */
export function setOther(other: Other | null): void {
  rendering?.cancel();
  rendering = null;
  audio.hearOther(false);
  audio.takeOther(null);
  useOther.setState({ ...NONE, other });
  match();
  if (other) void render();
}

/** Hears the sound itself, or the other in its place. */
export function hearOther(heard: 'A' | 'B'): void {
  if (heard === 'B' && !useOther.getState().compared) return;
  useOther.setState({ heard });
  audio.hearOther(heard === 'B');
}

/** Keeps the other in time and as loud as the open sound while that changes. Gives how to end it. */
export function keepCompared(): () => void {
  const ends = [
    useSounding.subscribe(({ shown }, before) => {
      if (shown !== before.shown && useOther.getState().compared) match();
    }),
    useDocumentStore.subscribe(({ document }) => {
      const { other } = useOther.getState();
      if (!document || !other || other.kind === 'wav' || under(document) === renderedUnder) return;
      clearTimeout(timer);
      timer = setTimeout(() => void render(), PAUSE_MS);
    }),
  ];
  return () => {
    clearTimeout(timer);
    for (const end of ends) end();
    setOther(null);
  };
}
