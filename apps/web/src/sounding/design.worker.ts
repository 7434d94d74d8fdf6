import { throughSystem, type PlaybackSystem, type Through } from '@abyssal/core';
import { expose } from 'comlink';

/** Designs the filters and the noise of playback systems away from the page: each takes some tens of milliseconds. */
export class Designer {
  design(system: PlaybackSystem, sampleRateHz: number): Through {
    return throughSystem(system, sampleRateHz, 0);
  }
}

expose(new Designer());
