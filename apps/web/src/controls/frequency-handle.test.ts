import { parameter } from '@abyssal/core';
import type { KeyboardEvent } from 'react';
import { frequencyHandle, nudgedHz } from './frequency-handle';

const key = (name: string, shiftKey = false) => ({ key: name, shiftKey });
const FROM = parameter('grit.bands.*.fromHz');

describe('a frequency moved by keys', () => {
  it('goes up and down by a 24th of an octave, with Shift by a 120th, with Page by half', () => {
    expect(nudgedHz(100, key('ArrowUp'))).toBeCloseTo(100 * 2 ** (1 / 24), 9);
    expect(nudgedHz(100, key('ArrowDown', true))).toBeCloseTo(100 / 2 ** (1 / 120), 9);
    expect(nudgedHz(100, key('PageUp'))).toBeCloseTo(100 * Math.SQRT2, 9);
    expect(nudgedHz(100, key('a'))).toBeNull();
  });

  it('is held within its bounds, to four places', () => {
    const told: number[] = [];
    const { set, props } = frequencyHandle({
      label: 'Crossover',
      row: FROM,
      value: FROM.max,
      onChange: (hz) => {
        told.push(hz);
      },
    });
    set(1);
    set(123.456);
    let prevented = 0;
    const press = (name: string) => {
      props.onKeyDown({
        ...key(name),
        preventDefault: () => {
          prevented += 1;
        },
      } as KeyboardEvent);
    };
    press('ArrowUp');
    press('x');
    expect(told).toEqual([FROM.min, 123.5, FROM.max]);
    expect(prevented).toBe(1);
    expect(props['aria-valuetext']).toBe('16 kHz');
  });
});
