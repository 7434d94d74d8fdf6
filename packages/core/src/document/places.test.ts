import { filterShape } from '../kinds/filters/index.js';
import { actsShape, feedbackShape } from './layer-shape.js';
import { cleanFilter, cleanLayer, cleanSource, cleanTone } from './defaults.js';
import { movableValues } from './movable-values.js';
import { sourceShape, toneShape, type ToneKind } from './tone-shape.js';
import { placesOf } from '../schema/places.js';

/** Every place of a tree of them, with the field that it is named for. */
function named(places: unknown, path: string): [field: string, place: number][] {
  if (typeof places === 'number') return [[path, places]];
  if (places === undefined || places === null) return [];
  const { first, each, of } = places as { first?: number; each?: number; of?: unknown };
  if (first !== undefined && each !== undefined)
    return each === 0 ? [] : named(of, `${path}.0`).map(([field, place]) => [field, first + place]);
  return Object.entries(places as object).flatMap(([key, inner]) =>
    named(inner, path === '' ? key : `${path}.${key}`),
  );
}

/** Fields of a part of a layer as its bank has them, in order, counted from the first of them. */
const bankOf = (layer: ReturnType<typeof cleanLayer>, part: string) =>
  movableValues(layer)
    .map(({ field }) => field)
    .filter((field) => field.startsWith(`${part}.`))
    .map((field) => field.slice(part.length + 1));

describe('a place', () => {
  it.each(Object.keys(sourceShape.cases) as ToneKind[])(
    'of a %s tone is that of the number it is named for',
    (kind) => {
      const bank = bankOf(
        cleanLayer('body', { tones: [cleanTone(), cleanTone({ source: cleanSource(kind) }), cleanTone()] }),
        'tones.1',
      );
      const places = named(placesOf(toneShape), '').filter(
        ([field]) => !field.startsWith('source.') || field.startsWith(`source.${kind}.`),
      );
      expect(places.length).toBeGreaterThan(8);
      for (const [field, place] of places) expect([bank[place], place]).toEqual([field, bank.indexOf(field)]);
      // All that may be reached has a place, but for what a list repeats.
      expect(bank.filter((field) => !/\.[1-9]\d*(\.|$)/.test(field)).sort()).toEqual(
        places.map(([field]) => field).sort(),
      );
    },
  );

  it('of an entry of a list is so many further on for each before it', () => {
    const bank = bankOf(
      cleanLayer('body', { tones: [cleanTone({ source: cleanSource('fm') }), cleanTone(), cleanTone()] }),
      'tones.0',
    );
    const { oscillators, matrix } = placesOf(toneShape).source.fm;
    expect(bank[oscillators.first + 2 * oscillators.each + oscillators.of.fineCents]).toBe(
      'source.fm.oscillators.2.fineCents',
    );
    expect(bank[matrix.first + 7 * matrix.each]).toBe('source.fm.matrix.7');
  });

  it.each([
    ['filters.1', filterShape],
    ['acts', actsShape],
    ['feedback', feedbackShape],
  ] as const)('of %s is that of the number it is named for', (part, shape) => {
    const bank = bankOf(cleanLayer('body', { filters: [cleanFilter(), cleanFilter()] }), part);
    expect(named(placesOf(shape), '').map(([field]) => field)).toEqual(bank);
    for (const [field, place] of named(placesOf(shape), '')) expect(bank[place]).toBe(field);
  });
});
