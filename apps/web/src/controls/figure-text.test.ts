import type { JudgedFigure } from '@abyssal/core';
import { changedWords, figureText } from './figure-text';

const judged = (id: JudgedFigure['id'], value: number | null, outOf?: number): JudgedFigure => ({
  id,
  figure: value === null ? { value, reason: 'there is only silence' } : { value },
  spread: null,
  verdict: 'holds',
  detail: '',
  margin: null,
  miss: null,
  outOf,
});

describe('figures as they are read', () => {
  it('have their sign where they are written with it, their places, and of how many they are', () => {
    expect(figureText(judged('kickLock', 2.06))).toBe('+2.1');
    expect(figureText(judged('mud', -4.26))).toBe('−4.3');
    expect(figureText(judged('heard', 6, 7))).toBe('6 / 7');
    expect(figureText(judged('clicks', 3))).toBe('3');
    expect(figureText(judged('glare', null))).toBe('–');
  });

  it('before and after a change, only just where their texts are the same', () => {
    const pair = (before: number, after: number) =>
      changedWords({ id: 'mud', before: judged('mud', before), after: judged('mud', after) });
    expect(pair(-3.4, -2.1)).toBe('Mud −3.4 to −2.1 dB');
    expect(pair(-3.02, -2.98)).toBe('Mud only just, −3.0 dB');
    const heard = { id: 'heard' as const, before: judged('heard', 4, 7), after: judged('heard', 7, 7) };
    expect(changedWords(heard)).toBe('Heard on systems 4 / 7 to 7 / 7');
  });
});
