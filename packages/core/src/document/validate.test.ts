import fc from 'fast-check';
import { cleanSound } from './defaults.js';
import { soundJsonSchema } from './json-schema.js';
import { fromPosition, linkTargets, parameter, PARAMETERS, toPosition } from './parameters.js';
import { DocumentError, findProblems, readDocument } from './validate.js';
import { FORMAT_VERSION } from './shape.js';

type Loose = Record<string, any>;
const changed = (change: (sound: Loose) => void): unknown => {
  const sound = structuredClone(cleanSound()) as Loose;
  change(sound);
  return sound;
};
const problemsOf = (change: (sound: Loose) => void) => findProblems(changed(change)).map(({ path, message }) => `${path}: ${message}`);

describe('sound documents', () => {
  it('takes a new sound as it is', () => {
    expect(findProblems(cleanSound())).toEqual([]);
    expect(readDocument(cleanSound())).toEqual(cleanSound());
  });

  it('names the path and the bound of what is out of range', () => {
    expect(problemsOf((s) => { s.layers[1].filters[0].cutoffHz = 40000; })).toEqual(['layers[1].filters[0].cutoffHz: 40000 is above 20000']);
    expect(problemsOf((s) => { s.ground.tempoBpm = 3; })).toEqual(['ground.tempoBpm: 3 is below 40']);
  });

  it.each([[NaN, 'NaN is not a finite number'], [Infinity, 'Infinity is not a finite number'], ['440', '"440" is not a number'], [null, 'null is not a number'], [[1], 'a list is not a number']])('refuses %p as a number', (value, message) => {
    expect(problemsOf((s) => { s.kick.levelDb = value; })).toEqual([`kick.levelDb: ${message}`]);
  });

  it('refuses a fraction where a whole number is wanted', () => {
    expect(problemsOf((s) => { s.ground.bars = 1.5; })).toEqual(['ground.bars: 1.5 is not a whole number']);
  });

  it('refuses unknown fields and says which are missing', () => {
    expect(problemsOf((s) => { s.layers[0].filters[0].colour = 'blue'; delete s.duck.holdMs; })).toEqual(['layers[0].filters[0].colour: is not a known field', 'duck.holdMs: is missing']);
  });

  it('is not fooled by names that every object has', () => {
    expect(problemsOf((s) => { Object.defineProperty(s.ground, 'toString', { value: 1, enumerable: true }); })).toEqual(['ground.toString: is not a known field']);
  });

  it('refuses a newer version with a word on what to do, and no version at all', () => {
    expect(problemsOf((s) => { s.formatVersion = FORMAT_VERSION + 1; })[0]).toMatch(/^formatVersion: the sound is of version 3; this program reads up to 2\. Open it with a newer Abyssal/);
    expect(problemsOf((s) => { s.formatVersion = 'new'; })[0]).toMatch(/is no version/);
  });

  it.each([[null], [[]], ['text'], [{}], [{ format: 'something else' }]])('says that %j is no sound', (value) => {
    expect(findProblems(value)[0].message).toMatch(/this is not a sound/);
  });

  it('finds what no single field can tell', () => {
    expect(problemsOf((s) => { s.line.notes[1].ticks = 5000; })).toEqual(['line.notes[1]: ends at tick 6920, after the loop\'s 3840']);
    expect(problemsOf((s) => { s.kick.hits.push({ tick: 4000, velocity: 90 }); })[0]).toMatch(/^kick\.hits\[8\]\.tick: 4000 is not before/);
    expect(problemsOf((s) => { s.links.push({ id: 'link-1', mover: 'nobody', target: 'layers.body.levelDb', reachPct: 10, on: true }); })).toEqual(['links[0].mover: there is no mover "nobody"']);
    expect(problemsOf((s) => { s.links.push({ id: 'link-1', mover: 'wobble-1', target: 'duck.amountDb', reachPct: 10, on: true }); })[0]).toMatch(/is no parameter that movers may reach/);
    expect(problemsOf((s) => { s.kick.source = 'wav'; })).toEqual(['kick.wav: is missing, though the kick is a WAV']);
    expect(problemsOf((s) => { s.layers[1].id = 'sub'; })).toEqual(['layers[1].id: "sub" stands twice']);
    expect(problemsOf((s) => { s.movers[0].nodes[1].x = 0; s.movers[0].nodes[2].x = 0.5; })).toEqual(['movers[0].nodes: must run from x 0 to x 1']);
  });

  it('throws one sentence that counts the others', () => {
    const broken = changed((s) => { s.kick.levelDb = 99; s.duck.amountDb = -1; });
    expect(() => readDocument(broken)).toThrow(DocumentError);
    expect(() => readDocument(broken)).toThrow('kick.levelDb: 99 is above 12 (and 1 more)');
  });

  it('never throws, whatever it is given', () => {
    fc.assert(fc.property(fc.anything(), (value) => { expect(Array.isArray(findProblems(value))).toBe(true); }), { numRuns: 300 });
  });
});

describe('the parameter table', () => {
  it('has defaults within bounds and a name and a line of help for every row', () => {
    for (const row of PARAMETERS) {
      expect(row.default).toBeGreaterThanOrEqual(row.min);
      expect(row.default).toBeLessThanOrEqual(row.max);
      expect(row.label).not.toBe('');
      expect(row.help).toMatch(/\.$/);
      if (row.scale === 'log') expect(row.min).toBeGreaterThan(0);
    }
  });

  it('goes from value to position and back', () => {
    fc.assert(fc.property(fc.constantFrom(...PARAMETERS), fc.double({ min: 0, max: 1, noNaN: true }), (row, at) => {
      expect(toPosition(row, fromPosition(row, at))).toBeCloseTo(at, 9);
    }));
    expect(fromPosition(parameter('layers.*.filters.*.cutoffHz'), 0.5)).toBeCloseTo(Math.sqrt(20 * 20000), 6);
  });

  it('knows what movers may reach', () => {
    const targets = linkTargets(cleanSound()).map(({ target }) => target);
    expect(targets).toContain('layers.body.filters.0.cutoffHz');
    expect(targets).toContain('grit.clip.driveDb');
    expect(targets).not.toContain('ground.tempoBpm');
    expect(() => parameter('nothing.here')).toThrow(RangeError);
  });

  it('gives the JSON Schema of the same shape', () => {
    const schema = soundJsonSchema() as Loose;
    expect(schema.additionalProperties).toBe(false);
    expect(schema.properties.layers.items.properties.filters.items.properties.cutoffHz).toMatchObject({ type: 'number', minimum: 20, maximum: 20000, default: 800 });
    expect(schema.properties.movers.items.oneOf).toHaveLength(2);
  });
});
