import {
  comparedLoopSteps,
  comparedRecording,
  fileNameOf,
  freezeSteps,
  mendAllSteps,
  mendSteps,
  renderBackingSteps,
  renderLoopSteps,
  wholeStateSteps,
  writeWav,
  type ComparedLoop,
  type Ground,
  type MendProgress,
  type Mends,
  type Recording,
  type SoundDocument,
  type Stereo,
} from '@abyssal/core';
import { expose } from 'comlink';
import type { BouncedFile, BounceOptions, MendedSound, OnProgress, SentAssets } from './render-types';

/** Mends are rendered and measured at the rate of the figures. */
const MEND_RATE_HZ = 48000;
/** A backing part is rendered at this rate. */
const BACKING_RATE_HZ = 48000;

/** Runs steps to their end and tells the share done. */
async function untilDone<T>(steps: Generator<number, T>, onProgress: OnProgress): Promise<T> {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    // Across the worker's border the call is a promise.
    await (onProgress(step.value) as unknown as Promise<void>);
  }
}

/** Renders what is handed out or played back, on a worker of its own that is ended to cancel it. */
export class Renderer {
  /** The loop of a sound as a WAV, and its stems where they are wanted. */
  async bounce(
    document: SoundDocument,
    assets: SentAssets,
    { sampleRateHz, bits, stems }: BounceOptions,
    onProgress: OnProgress,
  ): Promise<BouncedFile[]> {
    const steps = renderLoopSteps(document, { sampleRateHz, assets: new Map(assets), stems });
    const loop = await untilDone(steps, onProgress);
    const base = fileNameOf(document.name);
    const parts: (readonly [string, Stereo])[] = [[base, loop.all]];
    if (stems !== 'none') {
      const layers = loop.layers.map((layer) => [`${base}-${layer.id}`, layer] as const);
      parts.push([`${base}-kick`, loop.kick], [`${base}-bass`, loop.bass], ...layers);
    }
    return parts.map(([name, { left, right }]) => ({
      name: `${name}.wav`,
      bytes: writeWav([left, right], sampleRateHz, bits),
    }));
  }

  /** The bass of a sound as a backing part of another that has this tempo and length. */
  async backing(
    document: SoundDocument,
    assets: SentAssets,
    under: Pick<Ground, 'tempoBpm' | 'bars'>,
    onProgress: OnProgress,
  ): Promise<BouncedFile[]> {
    const options = { sampleRateHz: BACKING_RATE_HZ, assets: new Map(assets) };
    const { left, right } = await untilDone(renderBackingSteps(document, under, options), onProgress);
    const bytes = writeWav([left, right], BACKING_RATE_HZ, '24');
    return [{ name: `${fileNameOf(document.name)}.wav`, bytes }];
  }

  /** A kept state or another sound, to be heard in the place of the open one. */
  compared(
    document: SoundDocument,
    assets: SentAssets,
    under: Pick<SoundDocument, 'ground' | 'backing'>,
    sampleRateHz: number,
    onProgress: OnProgress,
  ): Promise<ComparedLoop> {
    const options = { sampleRateHz, assets: new Map(assets) };
    return untilDone(comparedLoopSteps(document, under, options), onProgress);
  }

  /** What may be done about the figures that do not hold; told as it is found. */
  async mends(
    document: SoundDocument,
    assets: SentAssets,
    tell: (told: MendProgress) => void,
  ): Promise<Mends> {
    const options = { sampleRateHz: MEND_RATE_HZ, assets: new Map(assets) };
    const whole = wholeStateSteps(document, options);
    let state = whole.next();
    while (!state.done) state = whole.next();
    const steps = mendSteps(state.value, options);
    for (;;) {
      const step = steps.next();
      if (step.done) return step.value;
      // Across the worker's border the call is a promise.
      await (tell(step.value) as unknown as Promise<void>);
    }
  }

  /** The sound mended as far as that goes without harm, what was done and what could not be. */
  async mendAll(document: SoundDocument, assets: SentAssets, onProgress: OnProgress): Promise<MendedSound> {
    const steps = mendAllSteps(document, { sampleRateHz: MEND_RATE_HZ, assets: new Map(assets) });
    for (;;) {
      const step = steps.next();
      if (step.done) {
        const { after, applied, left } = step.value;
        return { document: after.document, titles: applied.map(({ title }) => title), left };
      }
      await (onProgress(step.value.done) as unknown as Promise<void>);
    }
  }

  /** A recording, to be heard in the place of the open sound. */
  comparedRecording(recording: Recording, sampleRateHz: number): ComparedLoop {
    return comparedRecording(recording, sampleRateHz);
  }

  /** A layer's own loop, to be played back in its place. */
  freeze(
    document: SoundDocument,
    assets: SentAssets,
    layerId: string,
    sampleRateHz: number,
    onProgress: OnProgress,
  ): Promise<Stereo> {
    return untilDone(freezeSteps(document, layerId, { sampleRateHz, assets: new Map(assets) }), onProgress);
  }
}

expose(new Renderer());
