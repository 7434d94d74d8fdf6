import { cleanSound, cleanWavKick, type SoundDocument } from '@abyssal/core';
import { ApiProblem } from '../api/problem';
import type { Journal } from '../browser/journals';

// The session listens to the page's going away from the moment it is loaded.
(globalThis as { window?: unknown }).window = { addEventListener: () => undefined };
const HERE = 'this window';

jest.mock('../api/sounds');
jest.mock('../api/assets');
jest.mock('../browser/journals', () => ({
  dropJournal: jest.fn(),
  keepJournal: jest.fn(),
  keepJournalNow: jest.fn(),
  readJournals: jest.fn(),
  useKeeping: { getState: () => ({ failure: null }) },
}));
jest.mock('../browser/stores', () => ({
  seenSounds: { get: jest.fn(), set: jest.fn() },
  withRoom: jest.fn(),
}));
jest.mock('../browser/windows', () => ({
  enter: jest.fn(),
  hearWindows: jest.fn(),
  tellEditing: jest.fn(),
  tellSaved: jest.fn(),
}));
jest.mock('../browser/window-id', () => ({ windowId: 'this window', openWindows: jest.fn() }));
jest.mock('./recordings', () => ({ sendRecordings: jest.fn() }));

/* eslint-disable @typescript-eslint/no-require-imports */
const sounds = require('../api/sounds') as jest.Mocked<typeof import('../api/sounds')>;
const assets = require('../api/assets') as jest.Mocked<typeof import('../api/assets')>;
const journals = require('../browser/journals') as jest.Mocked<typeof import('../browser/journals')>;
const stores = require('../browser/stores') as jest.Mocked<typeof import('../browser/stores')>;
const windows = require('../browser/windows') as jest.Mocked<typeof import('../browser/windows')>;
const ids = require('../browser/window-id') as jest.Mocked<typeof import('../browser/window-id')>;
const recordings = require('./recordings') as jest.Mocked<typeof import('./recordings')>;
const { useView } = require('./view-store') as typeof import('./view-store');
const { edit, useDocumentStore, undo } = require('./document-store') as typeof import('./document-store');
const { bringBack, keepAsCopy, keepMine, leaveSound, openSound, saveNow, takeTheirs, useSession } =
  require('./session') as typeof import('./session');
/* eslint-enable */
// The session listens from the moment it is loaded.
const [[hear]] = windows.hearWindows.mock.calls;

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
  journals.readJournals.mockResolvedValue({ journals: [], broken: [] });
  journals.keepJournal.mockResolvedValue(undefined);
  journals.dropJournal.mockResolvedValue(undefined);
  ids.openWindows.mockResolvedValue(new Set([HERE]));
  stores.withRoom.mockResolvedValue(undefined);
  jest.mocked(stores.seenSounds.get).mockResolvedValue(undefined);
  assets.isHealthy.mockResolvedValue(true);
  recordings.sendRecordings.mockResolvedValue(undefined);
  sounds.readSound.mockResolvedValue(kept(3));
});
afterEach(() => {
  leaveSound();
  jest.useRealTimers();
});

const journal = (document: SoundDocument, more: Partial<Journal> = {}): Journal => ({
  soundId: ID,
  writer: 'a window that was closed',
  document,
  version: 3,
  at: 1,
  sent: null,
  ...more,
});
const left = (...all: Journal[]) => {
  journals.readJournals.mockResolvedValue({ journals: all, broken: [] });
};

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
    expect(journals.keepJournal).toHaveBeenLastCalledWith(
      expect.objectContaining({
        soundId: ID,
        writer: HERE,
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

  it('keeps mine over theirs, with theirs to undo to', async () => {
    sounds.updateSound.mockRejectedValueOnce(new ApiProblem(412, 'later'));
    await openSound(ID);
    rename('mine');
    sounds.readSound.mockResolvedValue(kept(4, named('theirs')));
    await pass(900);
    sounds.updateSound.mockResolvedValue(kept(5));
    await keepMine();
    await pass(900);
    expect(sounds.updateSound).toHaveBeenLastCalledWith(ID, 4, expect.objectContaining({ name: 'mine' }));
    undo();
    expect(useDocumentStore.getState().document!.name).toBe('theirs');
  });

  it('tries again later what the server refuses, and at once after a change', async () => {
    sounds.updateSound.mockRejectedValue(new ApiProblem(422, 'ground.tempoBpm: 3 is below 40'));
    await openSound(ID);
    rename('refused');
    await pass(10_000);
    expect([save(), useSession.getState().reason]).toEqual(['refused', 'ground.tempoBpm: 3 is below 40']);
    expect(sounds.updateSound).toHaveBeenCalledTimes(1);
    await pass(15_000);
    expect(sounds.updateSound).toHaveBeenCalledTimes(2);
    sounds.updateSound.mockResolvedValue(kept(4));
    rename('better');
    await pass(900);
    expect([save(), useSession.getState().reason]).toEqual(['saved', null]);
  });

  it.each([
    ['a store of the browser that throws', () => new Error('The browser’s own store does not answer.')],
    ['a server that breaks', () => new ApiProblem(500, 'Something went wrong in the server.')],
  ])('is never stuck at saving: %s is told, and tried again', async (_what, failure) => {
    recordings.sendRecordings.mockRejectedValueOnce(failure());
    sounds.updateSound.mockResolvedValue(kept(4));
    await openSound(ID);
    edit('kick', (draft) => {
      draft.kick.source = 'wav';
      draft.kick.wav = { ...cleanWavKick('a'.repeat(64), 'k.wav') };
    });
    await pass(900);
    expect([save(), useSession.getState().reason]).toEqual(['failed', failure().message]);
    expect(journals.keepJournal).toHaveBeenLastCalledWith(expect.objectContaining({ writer: HERE }));
    saveNow();
    await pass(10);
    expect(save()).toBe('saved');
    expect(journals.dropJournal).toHaveBeenLastCalledWith({ soundId: ID, writer: HERE });
  });

  it('leaves its work to the background when it is left while it saves', async () => {
    sounds.updateSound.mockReturnValue(new Promise(() => undefined));
    await openSound(ID);
    rename('under way');
    await pass(900);
    leaveSound();
    expect(journals.dropJournal).not.toHaveBeenCalled();
    // Whoever sends it later knows that the server may have it already.
    expect(journals.keepJournal.mock.lastCall![0]).toMatchObject({
      document: { name: 'under way' },
      sent: { name: 'under way' },
    });
  });

  it('says that the sound was deleted elsewhere, and brings it back with the work', async () => {
    sounds.updateSound.mockRejectedValueOnce(new ApiProblem(404, 'There is no such sound any more.'));
    await openSound(ID);
    rename('still here');
    await pass(900);
    expect(save()).toBe('deleted');
    await pass(30_000);
    expect(sounds.updateSound).toHaveBeenCalledTimes(1);
    sounds.restoreSound.mockResolvedValue(kept(3));
    sounds.updateSound.mockResolvedValue(kept(4));
    await bringBack();
    await pass(10);
    expect(sounds.updateSound).toHaveBeenLastCalledWith(
      ID,
      3,
      expect.objectContaining({ name: 'still here' }),
    );
    expect(save()).toBe('saved');
  });
});

describe('two windows on a sound', () => {
  it('show what the other saved, as a step that can be undone, and do not save it again', async () => {
    await openSound(ID);
    sounds.readSound.mockResolvedValue(kept(4, named('theirs')));
    hear({ kind: 'saved', soundId: ID });
    await pass(3000);
    expect([useDocumentStore.getState().document!.name, useSession.getState().version, save()]).toEqual([
      'theirs',
      4,
      'saved',
    ]);
    expect(sounds.updateSound).not.toHaveBeenCalled();
    sounds.updateSound.mockResolvedValue(kept(5));
    undo();
    await pass(900);
    expect(sounds.updateSound).toHaveBeenCalledWith(ID, 4, expect.objectContaining({ name: 'New sound' }));
  });

  it('keep their own work that is not saved when the other saves', async () => {
    await openSound(ID);
    rename('mine');
    sounds.readSound.mockResolvedValue(kept(4, named('theirs')));
    hear({ kind: 'saved', soundId: ID });
    await pass(10);
    expect(useDocumentStore.getState().document!.name).toBe('mine');
  });

  it('hear at once of an edit, a save and a deletion', async () => {
    sounds.updateSound.mockResolvedValue(kept(4));
    await openSound(ID);
    rename('edited');
    expect(windows.tellEditing).toHaveBeenLastCalledWith(true);
    await pass(900);
    expect(windows.tellSaved).toHaveBeenCalledWith(ID);
    expect(windows.tellEditing).toHaveBeenLastCalledWith(false);
    hear({ kind: 'deleted', soundId: ID });
    expect(save()).toBe('deleted');
  });
});

describe('opening', () => {
  it('prefers what the browser has not saved yet, and saves it', async () => {
    left(journal(named('draft'), { version: 3 }));
    sounds.updateSound.mockResolvedValue(kept(4));
    await openSound(ID);
    expect(useDocumentStore.getState().document!.name).toBe('draft');
    await pass(10);
    expect(sounds.updateSound).toHaveBeenCalledWith(ID, 3, expect.objectContaining({ name: 'draft' }));
  });

  it('asks where the draft began from a version that is gone', async () => {
    left(journal(named('draft'), { version: 2 }));
    await openSound(ID);
    expect([save(), useDocumentStore.getState().document!.name]).toEqual(['conflict', 'draft']);
  });

  it('knows a draft that the server did get', async () => {
    left(journal(named('draft, further'), { version: 2, sent: named('draft') }));
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

  it('takes what was seen last where the server is away', async () => {
    jest.mocked(stores.seenSounds.get).mockResolvedValue({ document: named('old'), version: 2 });
    await openSound(ID);
    expect(useDocumentStore.getState().document!.name).toBe('New sound');
    sounds.readSound.mockRejectedValue(new ApiProblem(0, 'away'));
    await openSound(ID);
    expect(useDocumentStore.getState().document!.name).toBe('old');
  });

  it('leaves alone the work of a window that is still open', async () => {
    left(journal(named('of another'), { writer: 'open' }));
    ids.openWindows.mockResolvedValue(new Set([HERE, 'open']));
    await openSound(ID);
    expect([useDocumentStore.getState().document!.name, save()]).toEqual(['New sound', 'saved']);
    expect(journals.dropJournal).not.toHaveBeenCalled();
  });

  it('goes on with work of a closed window as its own, and drops the other journal only then', async () => {
    left(journal(named('left')));
    sounds.updateSound.mockRejectedValue(new ApiProblem(0, 'away'));
    await openSound(ID);
    const order = [journals.keepJournal, journals.dropJournal].map(
      (mock) => mock.mock.invocationCallOrder[0],
    );
    expect(order[0]).toBeLessThan(order[1]);
    expect(journals.keepJournal.mock.calls[0][0]).toMatchObject({ writer: HERE, document: { name: 'left' } });
    expect(journals.dropJournal).toHaveBeenCalledWith(
      expect.objectContaining({ writer: 'a window that was closed' }),
    );
  });

  it('of work that the background sender has just saved is no conflict', async () => {
    left(journal(named('left')));
    sounds.readSound.mockResolvedValue(kept(4, named('left')));
    await openSound(ID);
    expect([save(), useSession.getState().version]).toEqual(['saved', 4]);
    leaveSound();
    // It saves between what is read here and what is saved here.
    sounds.readSound.mockResolvedValueOnce(kept(3)).mockResolvedValue(kept(4, named('left')));
    sounds.updateSound
      .mockRejectedValueOnce(new ApiProblem(412, 'later'))
      .mockResolvedValue(kept(5, named('left, further')));
    await openSound(ID);
    rename('left, further');
    await pass(1000);
    expect(sounds.updateSound.mock.lastCall).toEqual([
      ID,
      4,
      expect.objectContaining({ name: 'left, further' }),
    ]);
    expect(save()).toBe('saved');
  });

  it('opens work on a sound that was deleted, and work where the server fails', async () => {
    left(journal(named('left')));
    sounds.readSound.mockRejectedValue(new ApiProblem(404, 'There is no such sound any more.'));
    await openSound(ID);
    expect([save(), useDocumentStore.getState().document!.name]).toEqual(['deleted', 'left']);
    leaveSound();
    sounds.readSound.mockRejectedValue(new ApiProblem(500, 'Something went wrong in the server.'));
    await openSound(ID);
    expect([save(), useDocumentStore.getState().document!.name]).toEqual(['away', 'left']);
  });

  it('of work that cannot be read opens the sound from the server, and says so', async () => {
    journals.readJournals.mockResolvedValue({
      journals: [],
      broken: [{ key: `${ID} x`, soundId: ID, reason: 'It is cut off or garbled.', text: '{' }],
    });
    await openSound(ID);
    expect([save(), useDocumentStore.getState().document!.name]).toEqual(['saved', 'New sound']);
    expect(useView.getState().notice?.text).toMatch(/cannot be read and was set aside/);
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
