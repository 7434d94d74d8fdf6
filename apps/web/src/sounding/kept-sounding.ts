import { measuredText, soundingFile, type SoundDocument, type SoundingFile } from '@abyssal/core';
import { keepSounding as sendSounding } from '../api/soundings';
import { sha256 } from '../state/sha256';
import { useSession } from '../state/session';
import { useSounding } from './sounding-store';

/** What was measured of the open sound as a file; null until all of it is there. */
export function presentSounding(): { readonly of: SoundDocument; readonly file: SoundingFile } | null {
  const { shown, report, of } = useSounding.getState();
  if (!shown || !report || !of) return null;
  return {
    of,
    file: soundingFile(of, { ...shown, report: report.figures, tone: report.tone }),
  };
}

/** SHA-256 of what was measured, in hexadecimal. */
export function measuredHash(document: SoundDocument): Promise<string> {
  return sha256(new TextEncoder().encode(measuredText(document)));
}

/** Keeps what was measured of a sound or a state that is the present one with it on the server. */
export async function keepPresentSounding(owner: string): Promise<void> {
  const present = presentSounding();
  if (present) await sendSounding(owner, await measuredHash(present.of), present.file);
}

/** What was sent last: the sound, and the state of it that was measured. */
let sent: { readonly id: string; readonly of: SoundDocument } | null = null;

/** Keeps what is measured of the open sound with it, each time that it is saved and measured. Gives how to end it. */
export function keepSoundings(): () => void {
  const follow = () => {
    const { id, save } = useSession.getState();
    const { of, report } = useSounding.getState();
    if (!id || save !== 'saved' || !of || !report || (sent?.id === id && sent.of === of)) return;
    sent = { id, of };
    // It is measured again whenever it is opened: nothing is lost where the server is away.
    keepPresentSounding(id).catch(() => {
      sent = null;
    });
  };
  const ends = [useSession.subscribe(follow), useSounding.subscribe(follow)];
  return () => {
    for (const end of ends) end();
    sent = null;
  };
}
