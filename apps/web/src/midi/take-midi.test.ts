import { trenchGrowl } from '@abyssal/core';
import { openDocument, presentSound, undo, useDocumentStore } from '../state/document-store';

jest.mock('../audio/live', () => ({ playNote: jest.fn() }));

/* eslint-disable @typescript-eslint/no-require-imports */
const live = require('../audio/live') as jest.Mocked<typeof import('../audio/live')>;
const { bind, learn, unbind, useControls } = require('./bindings') as typeof import('./bindings');
const { takeMidi } = require('./take-midi') as typeof import('./take-midi');
/* eslint-enable */

const OPEN = 'macros.macro-1.valuePct';
const CUTOFF = 'layers.body.filters.0.cutoffHz';
const macro = () => presentSound().macros[0];
const cutoff = () => presentSound().layers[1].filters[0].cutoffHz;

beforeEach(() => {
  openDocument(structuredClone(trenchGrowl()));
  useControls.setState({ ofBrowser: [], learning: null, heard: null });
});

describe('a controller', () => {
  it('is learned by the first control that is moved, and tells what it heard', () => {
    learn(OPEN);
    takeMidi([0xb2, 21, 5]);
    expect(macro().control).toEqual({ control: 'cc 21', channel: 3, way: 'absolute' });
    expect(useControls.getState()).toMatchObject({ learning: null, heard: 'cc 21 on channel 3: 4 %' });
    // The move by which it was learned moves nothing.
    expect(macro().valuePct).toBe(0);
  });

  it('picks a value up where it stands, and moves it without a jump', () => {
    bind({ target: OPEN, control: 'cc 21', channel: 0, way: 'absolute' });
    takeMidi([0xb0, 21, 100]);
    expect(macro().valuePct).toBe(0);
    // Down to where the macro stands, and up with it.
    takeMidi([0xb0, 21, 0, 21, 64]);
    expect(macro().valuePct).toBeCloseTo((100 * 64) / 127, 1);
  });

  it('moves a parameter along its row’s own scale, all of a sweep as one step of undo', () => {
    bind({ target: CUTOFF, control: 'cc 7', channel: 1, way: 'absolute' });
    const steps = useDocumentStore.getState().past.length;
    takeMidi([0xb0, 7, 0]);
    for (let value = 1; value <= 127; value++) takeMidi([0xb0, 7, value]);
    expect(cutoff()).toBeCloseTo(20000, 0);
    expect(useDocumentStore.getState().past).toHaveLength(steps + 1);
    undo();
    expect(cutoff()).toBe(150);
  });

  it('goes in steps where the control tells steps', () => {
    bind({ target: OPEN, control: 'cc 9', channel: 0, way: 'two’s complement' });
    takeMidi([0xb0, 9, 1, 9, 1, 9, 1]);
    expect(macro().valuePct).toBeCloseTo(300 / 128, 1);
    takeMidi([0xb0, 9, 127]);
    expect(macro().valuePct).toBeCloseTo(200 / 128, 1);
  });

  it('on another channel is not heard', () => {
    bind({ target: OPEN, control: 'cc 21', channel: 2, way: 'absolute' });
    takeMidi([0xb0, 21, 0, 21, 64]);
    expect(macro().valuePct).toBe(0);
  });

  it('plays notes', () => {
    takeMidi([0x90, 29, 100, 29, 0]);
    expect(live.playNote.mock.calls).toEqual([
      [29, 100],
      [29, 0],
    ]);
  });

  it('keeps bytes of two controllers apart', () => {
    bind({ target: OPEN, control: 'cc 21', channel: 0, way: 'absolute' });
    takeMidi([0xb0, 21], 'one');
    takeMidi([0xb0, 22, 5], 'two');
    takeMidi([0], 'one');
    takeMidi([0xb0, 21, 32], 'one');
    expect(macro().valuePct).toBeCloseTo((100 * 32) / 127, 1);
  });
});

describe('bindings', () => {
  it('of macros go with the sound, those of parameters with the browser; a control moves one thing', () => {
    const control = { control: 'cc 21', channel: 0, way: 'absolute' } as const;
    bind({ target: OPEN, ...control });
    expect(useControls.getState().ofBrowser).toEqual([]);
    bind({ target: CUTOFF, ...control });
    expect(macro().control).toBeNull();
    expect(useControls.getState().ofBrowser).toEqual([{ target: CUTOFF, ...control }]);
    bind({ target: OPEN, ...control });
    expect(useControls.getState().ofBrowser).toEqual([]);
    unbind(OPEN);
    expect(macro().control).toBeNull();
  });
});
