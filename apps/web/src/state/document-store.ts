import type { SoundDocument } from '@abyssal/core';
import { applyPatches, enablePatches, freeze, produceWithPatches, type Draft, type Patch } from 'immer';
import { create } from 'zustand';
import { roundGroup } from './round';
import { tell } from './view-store';

enablePatches();

/** One undo step: what was done, in words, and how to do it again or take it back. */
interface Step {
  readonly label: string;
  readonly group: string | null;
  readonly at: number;
  readonly redo: readonly Patch[];
  readonly undo: readonly Patch[];
}

export interface DocumentState {
  readonly document: SoundDocument | null;
  readonly past: readonly Step[];
  readonly future: readonly Step[];
  /** Counts every change of the document; autosave and renders go by it. */
  readonly revision: number;
  /** What the last edit changed, by where it stands; nothing after undo, redo or another document. */
  readonly changed: readonly Patch[];
}

const MOST_STEPS = 300;
/** Changes of one group that follow within this time make one step: a drag, or a run of arrow keys. */
const GROUP_MS = 900;

export const useDocumentStore = create<DocumentState>(() => ({
  document: null,
  past: [],
  future: [],
  revision: 0,
  changed: [],
}));

/** Opens a document with an empty history. */
export function openDocument(opened: SoundDocument): void {
  // Immer would freeze all of it with the first edit, which a large sound would make late.
  const document = freeze(opened, true);
  useDocumentStore.setState(({ revision }) => ({
    document,
    past: [],
    future: [],
    revision: revision + 1,
    changed: [],
  }));
}

export function closeDocument(): void {
  useDocumentStore.setState({ document: null, past: [], future: [] });
}

/** Tones that are off and are being edited: nobody would hear what is done to them. */
function offTones(
  before: SoundDocument,
  after: SoundDocument,
  patches: readonly Patch[],
): [number, number][] {
  const found = new Map<string, [number, number]>();
  for (const { path } of patches) {
    const [list, layer, tones, tone, field] = path;
    if (
      list !== 'layers' ||
      tones !== 'tones' ||
      typeof layer !== 'number' ||
      typeof tone !== 'number' ||
      field === 'on' ||
      field === 'to'
    )
      continue;
    if (before.layers[layer]?.tones[tone]?.on === false && after.layers[layer]?.tones[tone]?.on === false)
      found.set(`${layer} ${tone}`, [layer, tone]);
  }
  return [...found.values()];
}

/**
 * Changes the open document as one undo step. Changes with the same `group` (a slider's path, say) that
 * follow one another are
 * one step.
 */
export function edit(
  label: string,
  recipe: (draft: Draft<SoundDocument>) => void,
  group: string | null = null,
): void {
  const { document, past, revision } = useDocumentStore.getState();
  if (!document) return;
  const first = produceWithPatches(document, recipe);
  const off = offTones(document, first[0], first[1]);
  const [next, redo, undo] =
    off.length === 0
      ? first
      : produceWithPatches(document, (draft) => {
          recipe(draft);
          // Another object each time: what the recipe puts in whole may be frozen.
          for (const [layer, tone] of off)
            draft.layers[layer].tones[tone] = { ...draft.layers[layer].tones[tone], on: true };
        });
  for (const [layer, tone] of off)
    tell(`Tone ${tone + 1} of ${next.layers[layer].name} was off; your edit has turned it on.`);
  if (redo.length === 0) return;
  const at = Date.now();
  const last = past[past.length - 1];
  const round = roundGroup();
  // All of a round of recording is one step, however long it takes.
  const joins = round
    ? last?.group === round
    : group !== null && last?.group === group && at - last.at < GROUP_MS;
  const step: Step = joins
    ? { ...last, at, redo: [...last.redo, ...redo], undo: [...undo, ...last.undo] }
    : { label: round ? 'recorded moves' : label, group: round ?? group, at, redo, undo };
  useDocumentStore.setState({
    document: next,
    past: [...(joins ? past.slice(0, -1) : past), step].slice(-MOST_STEPS),
    future: [],
    revision: revision + 1,
    changed: redo,
  });
}

/**
 * Changes the open document as part of the last undo step, for what follows from it; where there is none, the change
 * stands by itself. What was undone can still be done again.
 */
export function amend(recipe: (draft: Draft<SoundDocument>) => void): void {
  const { document, past, revision } = useDocumentStore.getState();
  if (!document) return;
  const [next, redo, undo] = produceWithPatches(document, recipe);
  if (redo.length === 0) return;
  const last = past.at(-1);
  useDocumentStore.setState({
    document: next,
    past: last
      ? [...past.slice(0, -1), { ...last, redo: [...last.redo, ...redo], undo: [...undo, ...last.undo] }]
      : past,
    revision: revision + 1,
    changed: redo,
  });
}

/** Puts another document in the place of the open one, as one undo step. */
export function replaceDocument(label: string, document: SoundDocument): void {
  edit(label, (draft) => {
    Object.assign(draft, document);
  });
}

export function undo(): void {
  const { document, past, future, revision } = useDocumentStore.getState();
  const step = past[past.length - 1];
  if (!document || !step) return;
  useDocumentStore.setState({
    document: applyPatches(document, step.undo),
    past: past.slice(0, -1),
    future: [step, ...future],
    revision: revision + 1,
    changed: [],
  });
}

export function redo(): void {
  const { document, past, future, revision } = useDocumentStore.getState();
  const [step, ...rest] = future;
  if (!document || !step) return;
  useDocumentStore.setState({
    document: applyPatches(document, step.redo),
    past: [...past, { ...step, group: null }],
    future: rest,
    revision: revision + 1,
    changed: [],
  });
}

/**
 * A part of the open document; only for parts of the page that are shown while one is open. They render again
 * when what is picked changes, and no
 * sooner: parts of a document that an edit leaves alone stay the same objects.
 */
export function useSound<T>(pick: (sound: SoundDocument) => T): T {
  return useDocumentStore(({ document }) => {
    if (!document) throw new Error('no sound is open');
    return pick(document);
  });
}

/** The open document as it is now, for what is done once. */
export function presentSound(): SoundDocument {
  const { document } = useDocumentStore.getState();
  if (!document) throw new Error('no sound is open');
  return document;
}

/** The open document as a whole. */
export const useDocument = (): SoundDocument => useSound((sound) => sound);
