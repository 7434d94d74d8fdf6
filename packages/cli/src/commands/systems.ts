import { OCTAVES_HZ, SYSTEMS, type PlaybackSystem } from '@abyssal/core';

const channelsOf = ({ monoBelowHz }: PlaybackSystem) =>
  monoBelowHz === 0 ? 'stereo' : Number.isFinite(monoBelowHz) ? `mono below ${monoBelowHz} Hz` : 'mono';

/** The playback systems with their numbers. */
export function systems() {
  return {
    systems: SYSTEMS.map((system) => ({
      id: system.id,
      name: system.name,
      response: system.response,
      channels: channelsOf(system),
      playsDbSpl: system.playsDb,
      mostDbSpl: system.mostDb,
      noiseDbSpl: OCTAVES_HZ.map((centreHz, i) => ({ centreHz, perOctave: system.noiseDb[i] })),
    })),
  };
}
