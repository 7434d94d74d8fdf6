import { create } from 'zustand';

/** The pitch and the system that are looked at; null where none was chosen: then it is what is heard least. */
export const usePicked = create<{
  readonly cell: { readonly pitch: number; readonly system: string } | null;
}>(() => ({ cell: null }));
