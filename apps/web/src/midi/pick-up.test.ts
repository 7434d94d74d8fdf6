import { PickUp } from './pick-up';

describe('a control', () => {
  /** Moves a control over places while its value begins at one; gives the values after each. */
  const move = (places: readonly number[], begin: number) => {
    const pick = new PickUp();
    let value = begin;
    return places.map((at) => {
      if (pick.takes('x', at, value)) {
        value = at;
        pick.stands('x', value);
      }
      return value;
    });
  };

  it('moves nothing until it reaches the value, and takes it along from there', () => {
    expect(move([0, 0.2, 0.45, 0.49, 0.6, 0.1], 0.5)).toEqual([0.5, 0.5, 0.5, 0.49, 0.6, 0.1]);
  });

  it('takes it along where it passes it in one step', () => {
    expect(move([0.2, 0.8, 0.9], 0.5)).toEqual([0.5, 0.8, 0.9]);
  });

  it('has to reach it again once something else has moved it', () => {
    const pick = new PickUp();
    expect(pick.takes('x', 0.5, 0.5)).toBe(true);
    pick.stands('x', 0.5);
    expect(pick.takes('x', 0.52, 0.9)).toBe(false);
    expect(pick.takes('x', 0.89, 0.9)).toBe(true);
  });
});
