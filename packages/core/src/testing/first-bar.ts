import type { SoundDocument } from '../document/index.js';

/** Ticks of a bar. */
const BAR = 1920;

/** The first bar of a sound, as a loop. */
export const firstBar = (sound: SoundDocument): SoundDocument => ({
  ...sound,
  ground: { ...sound.ground, bars: 1 },
  line: { notes: sound.line.notes.filter(({ tick, ticks }) => tick + ticks <= BAR) },
  kick: { ...sound.kick, hits: sound.kick.hits.filter(({ tick }) => tick < BAR) },
});
