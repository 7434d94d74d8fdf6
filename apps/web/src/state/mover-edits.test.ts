import { produce } from 'immer';
import { cleanMover, findProblems, MOST_LINKS, trenchGrowl, type SoundDocument } from '@abyssal/core';
import { addLink } from './link-edits';
import { addKept, addMover, copyMover, moveMover, removeMover } from './mover-edits';

const sound = (): SoundDocument => structuredClone(trenchGrowl());
const ids = ({ movers }: SoundDocument) => movers.map(({ id }) => id);

describe('edits of movers', () => {
  it('new ones have ids and names of their own', () => {
    const draft = sound();
    expect(addMover(draft, 'wobble')).toBe('wobble-2');
    expect(addMover(draft, 'noise')).toBe('noise-1');
    expect(addMover(draft, 'noise')).toBe('noise-2');
    expect(draft.movers.slice(3).map(({ name }) => name)).toEqual(['Wobble 2', 'Hiss', 'Hiss 2']);
    expect(findProblems(draft)).toEqual([]);
  });

  it('a copy moves all that its pattern moves, up to as many links as a sound takes', () => {
    const draft = sound();
    const of = (id: string) =>
      draft.links.filter(({ mover }) => mover === id).map(({ target, reachPct }) => [target, reachPct]);
    const copy = copyMover(draft, 'wobble-1');
    expect(copy).toBe('wobble-2');
    // Of a draft, as the page edits it, as well.
    expect(produce(sound(), (each) => void copyMover(each, 'wobble-1'))).toEqual(draft);
    expect(of(copy)).toEqual(of('wobble-1'));
    expect(findProblems(draft)).toEqual([]);
    while (draft.links.length < MOST_LINKS - 1) addLink(draft, 'envelope-1', 'layers.body.levelDb');
    expect(of(copyMover(draft, 'wobble-1'))).toHaveLength(1);
  });

  it('one that is taken out takes its links, and what moved its numbers and their reach', () => {
    const draft = sound();
    removeMover(draft, 'wobble-1');
    expect(ids(draft)).toEqual(['envelope-1', 'steps-1']);
    expect(draft.links.map(({ id }) => id)).toEqual(['link-4', 'link-6', 'link-8', 'link-9', 'link-11']);
    expect(findProblems(draft)).toEqual([]);
  });

  it('are moved within their bounds', () => {
    const draft = sound();
    moveMover(draft, 'steps-1', -5);
    expect(ids(draft)).toEqual(['steps-1', 'wobble-1', 'envelope-1']);
    moveMover(draft, 'wobble-1', 1);
    expect(ids(draft)).toEqual(['steps-1', 'envelope-1', 'wobble-1']);
  });

  it('one that was kept with another sound is started by what this one has', () => {
    const draft = sound();
    const id = addKept(draft, { ...cleanMover('envelope'), startedBy: 'drums-of-another', id: 'envelope-1' });
    expect(id).toBe('envelope-2');
    expect(draft.movers.at(-1)).toMatchObject({ startedBy: 'note', name: 'Snap 2' });
    expect(findProblems(draft)).toEqual([]);
  });
});
