import { cleanSound, type SoundDocument } from '@abyssal/core';
import { ApiProblem } from '../api/problem';

// The session listens to the page's going away from the moment it is loaded.
(globalThis as { window?: unknown }).window = { addEventListener: () => undefined };

jest.mock('../api/sounds');
jest.mock('../api/assets');
jest.mock('./drafts');
jest.mock('./recordings');

/* eslint-disable @typescript-eslint/no-require-imports */
const sounds = require('../api/sounds') as jest.Mocked<typeof import('../api/sounds')>;
const assets = require('../api/assets') as jest.Mocked<typeof import('../api/assets')>;
const drafts = require('./drafts') as jest.Mocked<typeof import('./drafts')>;
const recordings = require('./recordings') as jest.Mocked<typeof import('./recordings')>;
const { edit, useDocumentStore, undo } = require('./document-store') as typeof import('./document-store');
const { keepAsCopy, leaveSound, openSound, takeTheirs, useSession } =
  require('./session') as typeof import('./session');
/* eslint-enable */

const ID = '7d4ad0a5-6b6c-4b4b-8f7b-1d1f9a1f0001';
const kept = (version: number, document: SoundDocument = cleanSound()) => ({
  id: ID,
  version,
  updatedAt: '2026-11-25T00:00:00Z',
  document,
});
const named = (name: string): SoundDocument => ({ ...cleanSound(), name });
const rename = (name: string) => {
  edit('name', (draft) => {
    draft.name = name;
  });
};
const save = () => useSession.getState().save;
const pass = (ms: number) => jest.advanceTimersByTimeAsync(ms);

beforeEach(() => {
  jest.resetAllMocks();
  jest.useFakeTimers();
  drafts.readDraft.mockResolvedValue(null);
  drafts.keepDraft.mockResolvedValue(undefined);
  assets.isHealthy.mockResolvedValue(true);
  recordings.sendRecording.mockResolvedValue(undefined);
  sounds.readSound.mockResolvedValue(kept(3));
});
afterEach(async () => {
  sounds.updateSound.mockResolvedValue(kept(99));
  await leaveSound();
  jest.useRealTimers();
});

describe('a session', () => {
  it('saves a change after a pause, with the version it began from', async () => {
    sounds.updateSound.mockResolvedValue(kept(4));
    await openSound(ID);
    rename('one');
    expect(save()).toBe('unsaved');
    rename('two');
    await pass(700);
    expect(sounds.updateSound).not.toHaveBeenCalled();
    await pass(200);
    expect(sounds.updateSound.mock.calls).toEqual([[ID, 3, expect.objectContaining({ name: 'two' })]]);
    expect([save(), useSession.getState().version]).toEqual(['saved', 4]);
  });

  it('saves what was changed while it was saving', async () => {
    let answer: (value: ReturnType<typeof kept>) => void = () => undefined;
    sounds.updateSound
      .mockImplementationOnce(
        () =>
          new Promise((resolve) => {
            answer = resolve;
          }),
      )
      .mockResolvedValue(kept(5));
    await openSound(ID);
    rename('one');
    await pass(900);
    rename('two');
    answer(kept(4));
    await pass(0);
    expect(save()).toBe('unsaved');
    await pass(900);
    expect(sounds.updateSound.mock.calls[1]).toEqual([ID, 4, expect.objectContaining({ name: 'two' })]);
    expect(save()).toBe('saved');
  });

  it('keeps each change in the browser at once', async () => {
    await openSound(ID);
    rename('at once');
    expect(drafts.keepDraft).toHaveBeenLastCalledWith(
      ID,
      expect.objectContaining({
        dirty: true,
        version: 3,
        document: expect.objectContaining({ name: 'at once' }),
      }),
    );
  });

  it('tries again until the database is back', async () => {
    sounds.updateSound.mockRejectedValueOnce(new ApiProblem(503, 'away')).mockResolvedValue(kept(4));
    assets.isHealthy.mockResolvedValue(false);
    await openSound(ID);
    rename('later');
    await pass(900);
    expect(save()).toBe('away');
    await pass(6000);
    expect(sounds.updateSound).toHaveBeenCalledTimes(1);
    assets.isHealthy.mockResolvedValue(true);
    await pass(2100);
    expect([save(), useSession.getState().version]).toEqual(['saved', 4]);
  });

  it('goes on from its own save whose answer was lost', async () => {
    sounds.updateSound
      .mockRejectedValueOnce(new ApiProblem(503, 'away'))
      .mockRejectedValueOnce(new ApiProblem(412, 'later'))
      .mockResolvedValue(kept(5));
    await openSound(ID);
    rename('lost answer');
    await pass(900);
    // The server did keep it, as version 4.
    sounds.readSound.mockResolvedValue(kept(4, useDocumentStore.getState().document!));
    await pass(2100);
    await pass(100);
    expect(sounds.updateSound.mock.calls.map(([, version]) => version)).toEqual([3, 3, 4]);
    expect(save()).toBe('saved');
  });

  it('leaves the choice to the person where someone else saved', async () => {
    sounds.updateSound.mockRejectedValue(new ApiProblem(412, 'later'));
    await openSound(ID);
    rename('mine');
    sounds.readSound.mockResolvedValue(kept(4, named('theirs')));
    await pass(900);
    expect(save()).toBe('conflict');
    rename('mine still');
    await pass(5000);
    expect(sounds.updateSound).toHaveBeenCalledTimes(1);

    await takeTheirs();
    expect([useDocumentStore.getState().document!.name, useSession.getState().version]).toEqual([
      'theirs',
      4,
    ]);
    sounds.updateSound.mockResolvedValue(kept(5));
    undo();
    await pass(900);
    expect(sounds.updateSound).toHaveBeenLastCalledWith(
      ID,
      4,
      expect.objectContaining({ name: 'mine still' }),
    );
  });

  it("keeps one's own as a copy", async () => {
    sounds.createSound.mockResolvedValue({ ...kept(1), id: 'copy' });
    await openSound(ID);
    rename('mine');
    expect(await keepAsCopy()).toBe('copy');
    expect(sounds.createSound).toHaveBeenCalledWith(expect.objectContaining({ name: 'mine, copy' }));
  });

  it('does not try again what the server refuses', async () => {
    sounds.updateSound.mockRejectedValue(new ApiProblem(422, 'ground.tempoBpm: 3 is below 40'));
    await openSound(ID);
    rename('refused');
    await pass(10_000);
    expect([save(), useSession.getState().reason]).toEqual(['refused', 'ground.tempoBpm: 3 is below 40']);
    expect(sounds.updateSound).toHaveBeenCalledTimes(1);
  });
});

describe('opening', () => {
  it('prefers what the browser has not saved yet, and saves it', async () => {
    drafts.readDraft.mockResolvedValue({
      document: named('draft'),
      version: 3,
      dirty: true,
      at: 1,
      sent: null,
    });
    sounds.updateSound.mockResolvedValue(kept(4));
    await openSound(ID);
    expect(useDocumentStore.getState().document!.name).toBe('draft');
    await pass(10);
    expect(sounds.updateSound).toHaveBeenCalledWith(ID, 3, expect.objectContaining({ name: 'draft' }));
  });

  it('asks where the draft began from a version that is gone', async () => {
    drafts.readDraft.mockResolvedValue({
      document: named('draft'),
      version: 2,
      dirty: true,
      at: 1,
      sent: null,
    });
    await openSound(ID);
    expect([save(), useDocumentStore.getState().document!.name]).toEqual(['conflict', 'draft']);
  });

  it('knows a draft that the server did get', async () => {
    drafts.readDraft.mockResolvedValue({
      document: named('draft, further'),
      version: 2,
      dirty: true,
      at: 1,
      sent: named('draft'),
    });
    sounds.readSound.mockResolvedValue(kept(3, named('draft')));
    sounds.updateSound.mockResolvedValue(kept(4));
    await openSound(ID);
    await pass(10);
    expect(sounds.updateSound).toHaveBeenCalledWith(
      ID,
      3,
      expect.objectContaining({ name: 'draft, further' }),
    );
  });

  it('takes a clean draft only where the server is away', async () => {
    drafts.readDraft.mockResolvedValue({
      document: named('old'),
      version: 2,
      dirty: false,
      at: 1,
      sent: null,
    });
    await openSound(ID);
    expect(useDocumentStore.getState().document!.name).toBe('New sound');
    sounds.readSound.mockRejectedValue(new ApiProblem(0, 'away'));
    await openSound(ID);
    expect(useDocumentStore.getState().document!.name).toBe('old');
  });

  it("fails with the server's sentence where neither has it", async () => {
    sounds.readSound.mockRejectedValue(new ApiProblem(404, 'There is no such sound, or it was deleted.'));
    await expect(openSound(ID)).rejects.toThrow('There is no such sound');
  });

  it('of another sound overtakes one that is still under way', async () => {
    let answer: (value: ReturnType<typeof kept>) => void = () => undefined;
    sounds.readSound
      .mockImplementationOnce(
        () =>
          new Promise((resolve) => {
            answer = resolve;
          }),
      )
      .mockResolvedValueOnce({ ...kept(1, named('second')), id: 'second' });
    const first = openSound(ID);
    await openSound('second');
    answer(kept(3, named('first')));
    await first;
    expect([useSession.getState().id, useDocumentStore.getState().document!.name]).toEqual([
      'second',
      'second',
    ]);
  });
});
