import { matchedGainDb, systemsOf, type PlaybackSystem } from '@abyssal/core';
import { audio } from '../audio/audio-host';
import { useDocumentStore } from '../state/document-store';
import { tellError, useView } from '../state/view-store';
import { designOf } from './designs';
import { useSounding } from './sounding-store';

/** A match that is off by less than this is left as it is, dB. */
const ALIKE_DB = 0.5;

/** Whether the audio thread is there to be told; and what it was told last. */
let ready = false;
let told: { readonly key: string; readonly matchedDb: number } | null = null;

/** Levels by depth of all that is heard, dB; null until the sound is measured. */
function levelsHeard(): Float64Array | null {
  const depth = useSounding.getState().shown?.depth;
  if (!depth) return null;
  const parts = [depth.kick, depth.bass, ...(depth.backing ? [depth.backing] : [])];
  return depth.bass.map(
    (_, i) => 10 * Math.log10(parts.reduce((sum, levels) => sum + 10 ** (levels[i] / 10), 0)),
  );
}

/** Tells the audio thread which system is heard through, where that is another than it was told, or is matched otherwise. */
function follow(): void {
  if (!ready) return;
  const { through: id, throughWays: ways } = useView.getState();
  const { document } = useDocumentStore.getState();
  const system: PlaybackSystem | null =
    (document && systemsOf(document).find((each) => each.id === id)) ?? null;
  if (!system) {
    if (told) audio.hearThrough(null, ways);
    told = null;
    return;
  }
  const levels = levelsHeard();
  const key = JSON.stringify([system, ways, audio.sampleRateHz]);
  const matchedDb = levels ? matchedGainDb(levels, system) : 0;
  if (told?.key === key && Math.abs(told.matchedDb - matchedDb) < ALIKE_DB) return;
  const mine = { key, matchedDb };
  told = mine;
  designOf(system, audio.sampleRateHz).then((design) => {
    if (told === mine) audio.hearThrough({ ...design, matchedDb }, ways);
  }, tellError);
}

/** Has every system of the open sound at hand, so that the one that is chosen next is heard at once. */
function prepareSystems(): void {
  const { document } = useDocumentStore.getState();
  if (!document || !ready) return;
  for (const system of systemsOf(document)) void designOf(system, audio.sampleRateHz);
}

/** Has what is heard go through the system that is chosen, as long as a sound is open. Gives how to end it. */
export function keepHearingThrough(): () => void {
  const ends = [
    useView.subscribe(({ through, throughWays, playing }, before) => {
      // Whoever plays may want to hear through any of them next.
      if (playing && !before.playing) prepareSystems();
      if (through !== before.through || throughWays !== before.throughWays) follow();
    }),
    useSounding.subscribe(({ shown }, before) => {
      if (shown !== before.shown) follow();
    }),
    useDocumentStore.subscribe(({ document }, before) => {
      if (document?.systems !== before.document?.systems) follow();
    }),
  ];
  audio.prepare().then(() => {
    ready = true;
    follow();
  }, tellError);
  return () => {
    for (const end of ends) end();
    useView.setState({ through: null });
    audio.hearThrough(null, useView.getState().throughWays);
    told = null;
  };
}
