import { cleanSound } from '@abyssal/core';
import {
  amend,
  closeDocument,
  edit,
  openDocument,
  redo,
  replaceDocument,
  undo,
  useDocumentStore,
} from './document-store';

const state = () => useDocumentStore.getState();
const level = () => state().document!.layers[0].levelDb;
const setLevel = (value: number, group: string | null = null) => {
  edit(
    'level',
    (draft) => {
      draft.layers[0].levelDb = value;
    },
    group,
  );
};

beforeEach(() => {
  jest.useFakeTimers({ now: 1000 });
  openDocument(cleanSound());
});
afterEach(() => {
  jest.useRealTimers();
});

describe('undo', () => {
  it('takes back each change, and does it again', () => {
    setLevel(-1);
    setLevel(-2);
    expect(state().past.map(({ label }) => label)).toEqual(['level', 'level']);
    undo();
    expect(level()).toBe(-1);
    undo();
    expect(level()).toBe(-6);
    undo();
    expect(level()).toBe(-6);
    redo();
    redo();
    expect(level()).toBe(-2);
    redo();
    expect(level()).toBe(-2);
  });

  it('takes a drag as one step, and what comes after a pause as another', () => {
    for (let value = -7; value > -20; value--) {
      jest.advanceTimersByTime(30);
      setLevel(value, 'layers.0.levelDb');
    }
    expect(state().past).toHaveLength(1);
    jest.advanceTimersByTime(1000);
    setLevel(-3, 'layers.0.levelDb');
    expect(state().past).toHaveLength(2);
    undo();
    expect(level()).toBe(-19);
    undo();
    expect(level()).toBe(-6);
  });

  it('does not join what belongs to other groups, nor what follows an undo', () => {
    setLevel(-7, 'a');
    edit(
      'name',
      (draft) => {
        draft.name = 'x';
      },
      'b',
    );
    setLevel(-8, 'a');
    expect(state().past).toHaveLength(3);
    undo();
    redo();
    setLevel(-9, 'a');
    undo();
    expect(level()).toBe(-8);
  });

  it('forgets what was undone once something else is done', () => {
    setLevel(-1);
    undo();
    setLevel(-4);
    redo();
    expect(level()).toBe(-4);
    expect(state().future).toEqual([]);
  });

  it('counts every change, and none where nothing changed', () => {
    const before = state().revision;
    setLevel(-6);
    expect([state().revision, state().past.length]).toEqual([before, 0]);
    setLevel(-5);
    undo();
    expect(state().revision).toBe(before + 2);
  });

  it('leaves earlier states as they were', () => {
    const before = state().document!;
    setLevel(-30);
    expect(before.layers[0].levelDb).toBe(-6);
    expect(state().document!.kick).toBe(before.kick);
  });

  it("brings one's own sound back after another took its place", () => {
    setLevel(-11);
    replaceDocument('Reloaded', { ...cleanSound(), name: 'Theirs' });
    expect(state().document!.name).toBe('Theirs');
    undo();
    expect([state().document!.name, level()]).toEqual(['New sound', -11]);
  });

  it('keeps 300 steps', () => {
    for (let i = 0; i < 320; i++) setLevel(-10 - i / 100);
    expect(state().past).toHaveLength(300);
  });

  it('does nothing while no sound is open', () => {
    closeDocument();
    setLevel(-1);
    undo();
    redo();
    expect(state().document).toBeNull();
  });
});

describe('an edit of a tone that is off', () => {
  const tone = (t: number) => state().document!.layers[0].tones[t];

  it('turns it on as part of the same step, whether a number changes or the whole tone', () => {
    edit('level', (draft) => {
      draft.layers[0].tones[1].levelDb = -3;
    });
    expect(tone(1)).toMatchObject({ on: true, levelDb: -3 });
    const whole = Object.freeze({ ...tone(2), semitones: 7 });
    edit('tone', (draft) => {
      draft.layers[0].tones[2] = whole;
    });
    expect(tone(2)).toMatchObject({ on: true, semitones: 7 });
    undo();
    undo();
    expect([tone(1).on, tone(2).on]).toEqual([false, false]);
    expect(state().past).toHaveLength(0);
  });

  it('leaves it off where that is what is edited, and the others as they are', () => {
    edit('off', (draft) => {
      draft.layers[0].tones[0].on = false;
    });
    expect(tone(0).on).toBe(false);
    edit('layer', (draft) => {
      draft.layers[0].levelDb = -9;
    });
    expect([tone(0).on, tone(1).on]).toEqual([false, false]);
  });
});

describe('what follows from a change', () => {
  const amendLevel = (value: number) => {
    amend((draft) => {
      draft.layers[0].levelDb = value;
    });
  };

  it('is part of its step: both are taken back, and done again, as one', () => {
    setLevel(-1);
    amendLevel(-3);
    expect(state().past).toHaveLength(1);
    expect(level()).toBe(-3);
    undo();
    expect(level()).toBe(-6);
    redo();
    expect(level()).toBe(-3);
  });

  it('leaves what was undone to be done again', () => {
    setLevel(-1);
    setLevel(-2);
    undo();
    amendLevel(-1.5);
    expect(state().future).toHaveLength(1);
    redo();
    expect(level()).toBe(-2);
  });

  it('stands by itself where nothing was changed, and is counted as a change', () => {
    const { revision } = state();
    amendLevel(-6);
    expect(state().revision).toBe(revision);
    amendLevel(-4);
    expect([level(), state().past.length, state().revision]).toEqual([-4, 0, revision + 1]);
    closeDocument();
    amendLevel(-2);
    expect(state().document).toBeNull();
  });
});
