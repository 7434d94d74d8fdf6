import { endHearing, hearChange, useHearing } from '../audio/hear-change';
import { replaceDocument } from '../state/document-store';
import { hearOther } from './other-store';
import { tellError } from '../state/view-store';
import type { SoundDocument } from '@abyssal/core';

/** What is offered: a proposal for the lock, or a mend. */
interface Offer {
  readonly title: string;
  readonly document: SoundDocument;
}

/** Applies a proposal as one undo step; listening to one ends. */
export function applyProposal({ title, document }: Offer): void {
  endHearing();
  replaceDocument(title.charAt(0).toLowerCase() + title.slice(1), document);
}

/** Begins to listen to a proposal, before and after in turns, or ends it. */
export function toggleHearing({ title, document }: Offer): void {
  // What is heard in turns is the sound itself.
  hearOther('A');
  if (useHearing.getState().name === title) endHearing();
  else hearChange(title, document).catch(tellError);
}
