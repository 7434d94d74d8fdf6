import { cleanSound, type SoundDocument } from '@abyssal/core';
import { ApiProblem } from '../api/problem';
import type { Journal } from '../browser/journals';

jest.mock('../api/assets', () => ({ isHealthy: jest.fn() }));
jest.mock('../api/queries', () => ({ queries: { invalidateQueries: jest.fn() } }));
jest.mock('../api/sounds', () => ({ readSound: jest.fn(), updateSound: jest.fn(), createSound: jest.fn() }));
jest.mock('../browser/journals', () => ({
  readJournals: jest.fn(),
  dropJournal: jest.fn(),
  keepJournal: jest.fn(),
}));
jest.mock('../browser/window-id', () => ({
  windowId: 'this window',
  openWindows: jest.fn(),
  inTurn: (_name: string, work: () => Promise<void>) => work(),
}));
jest.mock('../browser/windows', () => ({
  forgetEnded: jest.fn(),
  hearWindows: jest.fn(),
  tellSaved: jest.fn(),
}));
jest.mock('../state/recordings', () => ({ sendRecordings: jest.fn() }));
const open = { id: null as string | null };
jest.mock('../state/session', () => ({ useSession: { getState: () => open } }));

/* eslint-disable @typescript-eslint/no-require-imports */
const { isHealthy } = require('../api/assets') as jest.Mocked<typeof import('../api/assets')>;
const sounds = require('../api/sounds') as jest.Mocked<typeof import('../api/sounds')>;
const kept = require('../browser/journals') as jest.Mocked<typeof import('../browser/journals')>;
const windows = require('../browser/window-id') as jest.Mocked<typeof import('../browser/window-id')>;
const { lookAtUnsaved, useUnsaved } = require('./unsaved-work') as typeof import('./unsaved-work');
const { keepAsAnother, keepAsTheSound } = require('./choose') as typeof import('./choose');
/* eslint-enable */

const named = (name: string): SoundDocument => ({ ...cleanSound(), name });
const journal = (name: string, more: Partial<Journal> = {}): Journal => ({
  soundId: name,
  writer: 'closed',
  document: named(name),
  version: 3,
  at: 1,
  sent: null,
  ...more,
});
const answer = (document: SoundDocument, version: number) => ({
  id: 'x',
  version,
  updatedAt: '2026-11-28T00:00:00Z',
  document,
});
const have = (...journals: Journal[]) => {
  kept.readJournals.mockResolvedValue({ journals, broken: [] });
};
const standings = () =>
  useUnsaved.getState().works.map(({ journal: { soundId }, standing }) => [soundId, standing]);

beforeEach(() => {
  jest.clearAllMocks();
  open.id = null;
  useUnsaved.setState({ works: [], broken: [] });
  windows.openWindows.mockResolvedValue(new Set(['this window', 'open']));
  isHealthy.mockResolvedValue(true);
  sounds.updateSound.mockReset().mockResolvedValue(answer(named('saved'), 4));
  sounds.readSound.mockReset();
});

describe('the background sender', () => {
  it('saves the work of closed windows and of sounds that were left here, for any sound', async () => {
    have(journal('a'), journal('b', { writer: 'this window' }));
    await lookAtUnsaved();
    expect(sounds.updateSound.mock.calls.map(([id, version]) => [id, version])).toEqual([
      ['a', 3],
      ['b', 3],
    ]);
    expect(kept.dropJournal).toHaveBeenCalledTimes(2);
    expect(standings()).toEqual([]);
  });

  it('keeps a journal whose sound was opened here again while it was sent', async () => {
    have(journal('a', { writer: 'this window' }));
    sounds.updateSound.mockImplementation(() => {
      open.id = 'a';
      return Promise.resolve(answer(named('a'), 4));
    });
    await lookAtUnsaved();
    expect(sounds.updateSound).toHaveBeenCalledTimes(1);
    expect(kept.dropJournal).not.toHaveBeenCalled();
  });

  it('leaves alone what a window has open, here or elsewhere', async () => {
    open.id = 'here';
    have(journal('here', { writer: 'this window' }), journal('here'), journal('there', { writer: 'open' }));
    await lookAtUnsaved();
    expect(sounds.updateSound).not.toHaveBeenCalled();
    expect(standings()).toEqual([
      ['here', 'open'],
      ['here', 'waiting'],
      ['there', 'open'],
    ]);
  });

  it('waits for a server that is away, and asks it once whether it is', async () => {
    isHealthy.mockResolvedValue(false);
    have(journal('a'), journal('b'));
    await lookAtUnsaved();
    expect(standings()).toEqual([
      ['a', 'waiting'],
      ['b', 'waiting'],
    ]);
    expect(isHealthy).toHaveBeenCalledTimes(1);
    expect(kept.dropJournal).not.toHaveBeenCalled();
  });

  it('leaves a choice where the sound was saved or deleted elsewhere or is refused, and asks no more', async () => {
    have(journal('saved'), journal('gone'), journal('bad'));
    sounds.updateSound
      .mockRejectedValueOnce(new ApiProblem(412, 'later'))
      .mockRejectedValueOnce(new ApiProblem(404, 'gone'))
      .mockRejectedValueOnce(new ApiProblem(422, 'x: is not known'));
    sounds.readSound.mockResolvedValue(answer(named('theirs'), 5));
    await lookAtUnsaved();
    expect(standings()).toEqual([
      ['saved', 'saved-elsewhere'],
      ['gone', 'deleted'],
      ['bad', 'refused'],
    ]);
    const [conflict, , refused] = useUnsaved.getState().works;
    expect([conflict.differs, refused.reason]).toEqual([['name'], 'x: is not known']);
    await lookAtUnsaved();
    expect(sounds.updateSound).toHaveBeenCalledTimes(3);
    expect(kept.dropJournal).not.toHaveBeenCalled();
  });

  it('knows work that the server got without its answer coming back', async () => {
    have(journal('same'), journal('further', { sent: named('sent before') }));
    sounds.updateSound
      .mockRejectedValueOnce(new ApiProblem(412, 'later'))
      .mockRejectedValueOnce(new ApiProblem(412, 'later'));
    sounds.readSound
      .mockResolvedValueOnce(answer(named('same'), 4))
      .mockResolvedValueOnce(answer(named('sent before'), 4));
    await lookAtUnsaved();
    expect(standings()).toEqual([]);
    expect(sounds.updateSound.mock.lastCall!.slice(0, 2)).toEqual(['further', 4]);
  });
});

describe('a choice', () => {
  const conflict = async () => {
    have(journal('mine'));
    sounds.updateSound.mockRejectedValueOnce(new ApiProblem(412, 'later'));
    sounds.readSound.mockResolvedValue(answer(named('theirs'), 7));
    await lookAtUnsaved();
    return useUnsaved.getState().works[0];
  };

  it('keeps the work over what the server has, and can be taken back', async () => {
    const work = await conflict();
    sounds.updateSound.mockResolvedValue(answer(named('mine'), 8));
    await keepAsTheSound(work);
    expect(sounds.updateSound.mock.lastCall).toEqual(['mine', 7, expect.objectContaining({ name: 'mine' })]);
    expect(kept.dropJournal).toHaveBeenCalledWith(work.journal);
  });

  it('keeps the journal where that fails', async () => {
    const work = await conflict();
    sounds.updateSound.mockRejectedValue(new ApiProblem(503, 'away'));
    await expect(keepAsTheSound(work)).rejects.toThrow('away');
    sounds.createSound.mockRejectedValue(new ApiProblem(503, 'away'));
    await expect(keepAsAnother(work)).rejects.toThrow('away');
    expect(kept.dropJournal).not.toHaveBeenCalled();
  });
});
