import {
  cleanLink,
  cleanMover,
  cleanSound,
  type Link,
  type Mover,
  type MoverOf,
  type SoundDocument,
} from '../document/index.js';
import {
  NO_RATE,
  PLAYED_ACCENT,
  PLAYED_NUMBER,
  PLAYED_PITCH,
  PLAYED_RATE,
  PLAYED_TIE,
  PLAYED_VELOCITY,
} from '../kinds/movers/index.js';
import { MoverBank } from '../engine/movers/mover-bank.js';

/** A note as movers are told of it. */
export interface Played {
  readonly pitch?: number;
  readonly velocity?: number;
  readonly accent?: boolean;
  readonly rate?: number;
  readonly number?: number;
  readonly tie?: boolean;
  readonly source?: number;
}

/** A cycle that falls straight from 1 to 0, so that its value tells its phase. */
export const fall = [
  { x: 0, y: 1, bend: 0 },
  { x: 1, y: 0, bend: 0 },
];

/** A wobble of that cycle. */
export const wobble = (set: Partial<MoverOf<'wobble'>>) =>
  cleanMover('wobble', { smoothMs: 0, nodes: fall, ...set });

/** What a sound has with backing parts of these ids. */
export const parts = (...ids: string[]): Partial<SoundDocument> => ({
  backing: ids.map((id) => ({
    id,
    name: id,
    on: true,
    asset: 'a'.repeat(64),
    fileName: '',
    sound: '',
    startTick: 0,
    gainDb: 0,
  })),
});

export const last = (values: readonly number[]) => values[values.length - 1];

/** A sound of these movers, each linked to the cutoff of its Body, beside the given links. */
export function movingSound(
  movers: readonly Mover[],
  links: readonly Link[] = [],
  patch: Partial<SoundDocument> = {},
): SoundDocument {
  const sound = cleanSound();
  return {
    ...sound,
    ground: { ...sound.ground, tempoBpm: 120 },
    movers: [...movers],
    links: [
      ...movers.map(({ id }, i) =>
        cleanLink({ id: `cutoff-${i}`, mover: id, target: 'layers.body.filters.0.cutoffHz' }),
      ),
      ...links,
    ],
    ...patch,
  };
}

/** Movers under way by themselves, in steps of 16 frames at 48 kHz and 120 bpm unless told otherwise. */
export function moving(
  movers: readonly Mover[],
  links: readonly Link[] = [],
  { sampleRateHz = 48000, seed = 1, patch = {} as Partial<SoundDocument>, frames = 16 } = {},
) {
  const document = movingSound(movers, links, patch);
  const bank = new MoverBank(document, { sampleRateHz, seed, layerId: 'body' });
  const perFrame = Float64Array.of((480 * document.ground.tempoBpm) / 60 / sampleRateHz);
  let place = -1;
  return {
    bank,
    document,
    /** Lets the loop run from a place, in frames. */
    play(from = 0) {
      place = from;
    },
    note({
      pitch = 29,
      velocity = 100,
      accent = false,
      rate = NO_RATE,
      number = -1,
      tie = false,
      source = 1,
    }: Played = {}) {
      const { note } = bank.inputs;
      note[PLAYED_PITCH] = pitch;
      note[PLAYED_VELOCITY] = velocity;
      note[PLAYED_ACCENT] = accent ? 1 : 0;
      note[PLAYED_RATE] = rate;
      note[PLAYED_NUMBER] = number;
      note[PLAYED_TIE] = tie ? 1 : 0;
      bank.noteOn(source, number >= 0);
      return bank.value[0];
    },
    /** Values of a mover after each step of a stretch. */
    run(seconds: number, mover = 0): number[] {
      return Array.from({ length: Math.round((seconds * sampleRateHz) / frames) }, () => {
        bank.stand(place, frames, perFrame);
        if (place >= 0) place += frames;
        bank.step(frames);
        return bank.value[mover];
      });
    },
  };
}
