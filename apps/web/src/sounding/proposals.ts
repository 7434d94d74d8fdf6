import { endHearing, hearChange, useHearing } from '../audio/hear-change';
import { replaceDocument, useDocumentStore } from '../state/document-store';
import { hearOther } from './other-store';
import { soundsAlike, withUnheardOf } from './sounds-alike';
import { tellError } from '../state/view-store';
import type { SoundDocument } from '@abyssal/core';

/** What is offered: a proposal for the lock, or a mend. */
interface Offer {
  readonly title: string;
  readonly document: SoundDocument;
}

/** Whether an offer that was found for this state of the open sound still is for it: nothing that is heard has changed since. */
export const useStillFor = (of: SoundDocument | null): boolean =>
  useDocumentStore(({ document }) => document !== null && of !== null && soundsAlike(document, of));

/**
 * Applies a proposal that was found for `of` as one undo step; listening to one ends. Where something that is heard has
 * changed since, it would take that back: then nothing is done.
 */
export function applyProposal({ title, document }: Offer, of: SoundDocument | null): void {
  const { document: open } = useDocumentStore.getState();
  if (!open || !of || !soundsAlike(open, of)) return;
  endHearing();
  replaceDocument(title.charAt(0).toLowerCase() + title.slice(1), withUnheardOf(document, open));
}

/** Begins to listen to a proposal, before and after in turns, or ends it. */
export function toggleHearing({ title, document }: Offer): void {
  // What is heard in turns is the sound itself.
  hearOther('A');
  if (useHearing.getState().name === title) endHearing();
  else hearChange(title, document).catch(tellError);
}
