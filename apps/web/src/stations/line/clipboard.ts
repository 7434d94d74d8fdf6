import type { LineNote } from '@abyssal/core';
import { create } from 'zustand';

/** Notes that were copied, until the page is left; their ticks from the first of them on. */
export const useClipboard = create<{ readonly notes: readonly LineNote[] }>(() => ({ notes: [] }));
