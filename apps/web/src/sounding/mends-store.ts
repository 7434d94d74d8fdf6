import { FIGURES, type Mends, type SoundDocument } from '@abyssal/core';
import { create } from 'zustand';
import { endHearing } from '../audio/hear-change';
import { replaceDocument, useDocumentStore } from '../state/document-store';
import { tell, tellError } from '../state/view-store';
import { startMendAll, startMends, wasCancelled, type Render } from './bounce';
import { useSounding } from './sounding-store';

export interface MendsState {
  /** The state of the sound that is looked at, and what is found so far. */
  readonly of: SoundDocument | null;
  readonly found: Mends | null;
  /** Share of the search that is done, 0 to 1; null while there is none. */
  readonly done: number | null;
  /** Share of mending everything that is done; null while that is not under way. */
  readonly mending: number | null;
  /** What could not be mended the last time, in words; null where that was not tried. */
  readonly left: readonly string[] | null;
}

const NONE: MendsState = { of: null, found: null, done: null, mending: null, left: null };
export const useMends = create<MendsState>(() => NONE);

let search: Render<Mends> | null = null;
let all: Render<unknown> | null = null;

/** Looks for what would mend a state of the open sound, unless that is looked at by now. */
function look(document: SoundDocument): void {
  if (useMends.getState().of === document) return;
  search?.cancel();
  useMends.setState({ of: document, found: null, done: 0 });
  const mine = startMends(document, ({ done, soFar }) => {
    if (search === mine) useMends.setState(soFar ? { done, found: soFar } : { done });
  });
  search = mine;
  mine.result.then(
    (found) => {
      if (search === mine) useMends.setState({ found, done: null });
    },
    (error: unknown) => {
      if (search !== mine || wasCancelled(error)) return;
      useMends.setState({ done: null });
      tellError(error);
    },
  );
}

/** Looks for mends of the open sound each time that it is measured. Gives how to end it. */
export function keepMending(): () => void {
  const follow = () => {
    const { of, report } = useSounding.getState();
    if (of && report && of === useDocumentStore.getState().document) look(of);
  };
  const end = useSounding.subscribe(follow);
  follow();
  return () => {
    end();
    search?.cancel();
    all?.cancel();
    search = all = null;
    useMends.setState(NONE);
  };
}

/** Leaves off the search. */
export function stopSearch(): void {
  search?.cancel();
  search = null;
  useMends.setState({ done: null });
}

/** Mends all that does not hold as far as that goes without harm, as one undo step, and says what it could not do. */
export async function mendAll(): Promise<void> {
  const { document } = useDocumentStore.getState();
  if (!document) return;
  useMends.setState({ mending: 0, left: null });
  const mine = startMendAll(document, (mending) => {
    if (all === mine) useMends.setState({ mending });
  });
  all = mine;
  try {
    const { document: mended, titles, left } = await mine.result;
    if (useDocumentStore.getState().document !== document) {
      tell('The sound was changed meanwhile, so nothing was mended. Press it again.');
      return;
    }
    const words = left.map(({ id, against }) => `${FIGURES[id].label}: ${against}`);
    if (titles.length > 0) {
      endHearing();
      replaceDocument('mend what falls short', mended);
    }
    useMends.setState({ left: words });
    tell(
      titles.length === 0
        ? 'Nothing that was tried mends it without harm: the sound is as it was.'
        : `Mended: ${titles.join('; ')}.${left.length > 0 ? ` ${left.length === 1 ? 'One figure does' : `${left.length} figures do`} not hold yet.` : ''}`,
    );
  } catch (error) {
    if (!wasCancelled(error)) tellError(error);
  } finally {
    if (all === mine) {
      all = null;
      useMends.setState({ mending: null });
    }
  }
}

/** Leaves off mending; the sound is as it was. */
export function stopMending(): void {
  all?.cancel();
}
