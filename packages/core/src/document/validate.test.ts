import fc from 'fast-check';
import { cleanLink, cleanSound, cleanSource, cleanSystem, cleanTone } from './defaults.js';
import { soundJsonSchema } from './json-schema.js';
import { movableValues } from './movable-values.js';
import { fromPosition, numbersOf, parameter, PARAMETERS, toPosition } from './parameters.js';
import { linkTargets, targetLabel } from './targets.js';
import {
  DocumentError,
  findBackingProblems,
  findKickProblems,
  findLayerProblems,
  findProblems,
  findSystemProblems,
  findTargetSetProblems,
  readDocument,
} from './validate.js';
import { FORMAT_VERSION, soundShape } from './shape.js';
import { sourceShape, type ToneKind } from './tone-shape.js';

type Loose = Record<string, any>;
const changed = (change: (sound: Loose) => void): unknown => {
  const sound = structuredClone(cleanSound()) as Loose;
  change(sound);
  return sound;
};
const problemsOf = (change: (sound: Loose) => void) =>
  findProblems(changed(change)).map(({ path, message }) => `${path}: ${message}`);

describe('sound documents', () => {
  it('takes a new sound as it is', () => {
    expect(findProblems(cleanSound())).toEqual([]);
    expect(readDocument(cleanSound())).toEqual(cleanSound());
  });

  it('names the path and the bound of what is out of range', () => {
    expect(
      problemsOf((s) => {
        s.layers[1].filters[0].cutoffHz = 40000;
      }),
    ).toEqual(['layers[1].filters[0].cutoffHz: 40000 is above 20000']);
    expect(
      problemsOf((s) => {
        s.ground.tempoBpm = 3;
      }),
    ).toEqual(['ground.tempoBpm: 3 is below 40']);
  });

  it.each([
    [NaN, 'NaN is not a finite number'],
    [Infinity, 'Infinity is not a finite number'],
    ['440', '"440" is not a number'],
    [null, 'null is not a number'],
    [[1], 'a list is not a number'],
  ])('refuses %p as a number', (value, message) => {
    expect(
      problemsOf((s) => {
        s.kick.levelDb = value;
      }),
    ).toEqual([`kick.levelDb: ${message}`]);
  });

  it('refuses a fraction where a whole number is wanted', () => {
    expect(
      problemsOf((s) => {
        s.ground.bars = 1.5;
      }),
    ).toEqual(['ground.bars: 1.5 is not a whole number']);
  });

  it('refuses unknown fields and says which are missing', () => {
    expect(
      problemsOf((s) => {
        s.layers[0].filters[0].colour = 'blue';
        delete s.duck.holdMs;
      }),
    ).toEqual(['layers[0].filters[0].colour: is not a known field', 'duck.holdMs: is missing']);
  });

  it('is not fooled by names that every object has', () => {
    expect(
      problemsOf((s) => {
        Object.defineProperty(s.ground, 'toString', { value: 1, enumerable: true });
      }),
    ).toEqual(['ground.toString: is not a known field']);
  });

  // As JSON gives them: `__proto__` is a field like any other there.
  it.each(['constructor', 'toString', '__proto__', 'hasOwnProperty', 'valueOf'])(
    'knows no kind called %s',
    (kind) => {
      const sound = cleanSound();
      const text = JSON.stringify({ ...sound, movers: [{ kind, id: 'm', name: 'm', on: true }] });
      expect(findProblems(JSON.parse(text))[0]).toMatchObject({ path: 'movers[0]' });
      const layer = {
        ...sound.layers[0],
        tones: [{ ...cleanTone(), source: { kind } }, cleanTone(), cleanTone()],
      };
      expect(findLayerProblems(JSON.parse(JSON.stringify(layer)))[0].path).toBe('tones[0].source');
      for (const formatVersion of [1, 2, 3, 4, 5, 6])
        expect(
          findProblems(JSON.parse(text.replace(/"formatVersion":\d+/, `"formatVersion":${formatVersion}`))),
        ).not.toEqual([]);
      expect(
        problemsOf((s) => {
          s.links = [
            cleanLink({ id: 'l', mover: s.movers[0].id, target: `layers.sub.${kind}.0`, reachPct: 5 }),
          ];
        }),
      ).toEqual([expect.stringMatching(/^links\[0\]\.target: /)]);
    },
  );

  it.each([
    ['half a character', 'Deep \ud83d', 'the text has half a character in it (a lone surrogate)'],
    [
      'half a character before another',
      '\udc00\ud800',
      'the text has half a character in it (a lone surrogate)',
    ],
    ['a control character', 'Deep\u0000', 'the text has a control character in it'],
    ['a line of its own', 'Deep\nwater', 'the text has a control character in it'],
  ])('refuses a name with %s', (_what, name, message) => {
    expect(
      problemsOf((s) => {
        s.name = name;
        s.tags = ['sub', name];
        s.layers[0].name = name;
      }),
    ).toEqual(['name', 'tags[1]', 'layers[0].name'].map((path) => `${path}: ${message}`));
    expect(
      problemsOf((s) => {
        s.name = 'Tiefe 🌊 Växjö – ½';
      }),
    ).toEqual([]);
  });

  it('refuses a newer version with a word on what to do, and no version at all', () => {
    expect(
      problemsOf((s) => {
        s.formatVersion = FORMAT_VERSION + 1;
      })[0],
    ).toMatch(
      /^formatVersion: the sound is of version 11; this program reads up to 10\. Open it with a newer Abyssal/,
    );
    expect(
      problemsOf((s) => {
        s.formatVersion = 'new';
      })[0],
    ).toMatch(/is no version/);
  });

  it.each([[null], [[]], ['text'], [{}], [{ format: 'something else' }]])(
    'says that %j is no sound',
    (value) => {
      expect(findProblems(value)[0].message).toMatch(/this is not a sound/);
    },
  );

  it('finds what no single field can tell', () => {
    expect(
      problemsOf((s) => {
        s.line.notes[1].ticks = 5000;
      }),
    ).toEqual(["line.notes[1]: ends at tick 5480, after the loop's 3840"]);
    expect(
      problemsOf((s) => {
        s.kick.hits.push({ tick: 4000, velocity: 90 });
      })[0],
    ).toMatch(/^kick\.hits\[8\]\.tick: 4000 is not before/);
    expect(
      problemsOf((s) => {
        s.links.push(
          cleanLink({
            id: 'link-1',
            mover: 'nobody',
            target: 'layers.body.levelDb',
            reachPct: 10,
          }),
        );
      }),
    ).toEqual(['links[0].mover: there is no mover "nobody"']);
    expect(
      problemsOf((s) => {
        s.links.push(cleanLink({ id: 'link-1', mover: 'wobble-1', target: 'duck.amountDb', reachPct: 10 }));
      })[0],
    ).toMatch(/is no parameter that movers may reach/);
    expect(
      problemsOf((s) => {
        s.kick.source = 'wav';
      }),
    ).toEqual(['kick.wav: is missing, though the kick is a WAV']);
    expect(
      problemsOf((s) => {
        s.layers[1].id = 'sub';
      }),
    ).toEqual(['layers[1].id: "sub" appears twice']);
    expect(
      problemsOf((s) => {
        s.movers[0].nodes[1].x = 0;
        s.movers[0].nodes[2].x = 0.5;
      }),
    ).toEqual(['movers[0].nodes: must run from x 0 to x 1']);
  });

  it('throws one sentence that counts the others', () => {
    const broken = changed((s) => {
      s.kick.levelDb = 99;
      s.duck.amountDb = -1;
    });
    expect(() => readDocument(broken)).toThrow(DocumentError);
    expect(() => readDocument(broken)).toThrow('kick.levelDb: 99 is above 12 (and 1 more)');
  });

  it('never throws, whatever it is given', () => {
    fc.assert(
      fc.property(fc.anything(), (value) => {
        expect(Array.isArray(findProblems(value))).toBe(true);
      }),
      { numRuns: 300 },
    );
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

  it('names the numbers that each kind of tone has of its own', () => {
    expect(numbersOf('vowel')).toEqual(['positionPct', 'sizeSt', 'tiltDb', 'breathPct']);
    for (const kind of Object.keys(sourceShape.cases) as ToneKind[])
      for (const field of numbersOf(kind))
        expect(parameter(`layers.*.tones.*.source.${kind}.${field}`).label).not.toBe('');
  });

  it('goes from value to position and back', () => {
    fc.assert(
      fc.property(fc.constantFrom(...PARAMETERS), fc.double({ min: 0, max: 1, noNaN: true }), (row, at) => {
        expect(toPosition(row, fromPosition(row, at))).toBeCloseTo(at, 9);
      }),
    );
    expect(fromPosition(parameter('layers.*.filters.*.cutoffHz'), 0.5)).toBeCloseTo(Math.sqrt(20 * 20000), 6);
  });

  it('knows what movers may reach', () => {
    const targets = linkTargets(cleanSound()).map(({ target }) => target);
    expect(targets).toContain('layers.body.filters.0.cutoffHz');
    expect(targets).toContain('units.soft-clip-1.driveDb');
    expect(targets).not.toContain('ground.tempoBpm');
    expect(() => parameter('nothing.here')).toThrow(RangeError);
  });

  it('has words for what movers may reach, of sounding tones and filters only', () => {
    const sound = cleanSound();
    sound.layers[1].tones[1] = cleanTone({ on: true, source: cleanSource('fm') });
    const labels = linkTargets(sound).map(({ label }) => label);
    expect(labels).toEqual(
      expect.arrayContaining([
        'Body · tone 2 · 2 into 1 · amount',
        'Body · tone 2 · 1 into itself · amount',
        'Body · tone 2 · oscillator 3 · ratio',
        'Body · filter 1 · cutoff',
        'Sub · level',
        'Whole sound · feedback',
        'above 90 Hz · Soft clip · drive',
      ]),
    );
    expect(
      labels.some((label) => label.startsWith('Body · tone 3 ·') || label.startsWith('Sub · filter')),
    ).toBe(false);
    expect(targetLabel(sound, 'layers.body.tones.2.cents')).toBe('Body · tone 3 · fine');
    expect(targetLabel(sound, 'units.soft-clip-1.driveDb')).toBe('above 90 Hz · Soft clip · drive');
    expect(targetLabel(sound, 'layers.body.tones.2.shine')).toBeNull();
  });

  it('lets a link wait for a tone of another kind, and refuses one to a place that no list has', () => {
    const sound = cleanSound();
    const link = (target: string) =>
      findProblems({
        ...sound,
        links: [cleanLink({ id: 'l', mover: 'wobble-1', target, reachPct: 10 })],
      }).map(({ path }) => path);
    expect(link('layers.body.tones.0.source.fm.matrix.15')).toEqual([]);
    for (const target of [
      'layers.body.tones.0.source.fm.matrix.16',
      'layers.body.tones.3.cents',
      'layers.body.filters.2.cutoffHz',
      'layers.gone.levelDb',
      'layers.body.tones.0.octave',
      'layers.body.tones.0.source.shape.shape',
    ])
      expect(link(target)).toEqual(['links[0].target']);
  });

  it('finds the movable numbers of a layer in the order of the document, each with its value', () => {
    const [, body] = cleanSound().layers;
    const values = movableValues(body, true);
    expect(values.slice(0, 4).map(({ field, value }) => [field, value])).toEqual([
      ['levelDb', -10],
      ['panPct', 0],
      ['tones.0.cents', 0],
      ['tones.0.fixedHz', 55],
    ]);
    expect(values.some(({ field }) => field.startsWith('tones.1.') || field.startsWith('filters.1.'))).toBe(
      false,
    );
    expect(movableValues(body).length).toBeGreaterThan(values.length);
    for (const { field, row } of movableValues(body))
      expect(parameter(`layers.*.${field.replace(/\.\d+(?=\.|$)/g, '.*')}`)).toEqual(row);
  });

  it('tells what no single number of a tone tells', () => {
    const problems = (source: ReturnType<typeof cleanSource>) => {
      const sound = cleanSound();
      sound.layers[0].tones[2].source = source;
      return findProblems(sound).map(({ path, message }) => `${path}: ${message}`);
    };
    const zone = {
      asset: 'a'.repeat(64),
      fileName: 'a.wav',
      rootPitch: 36,
      lowPitch: 0,
      highPitch: 127,
      lowVelocity: 1,
      highVelocity: 127,
      loop: null,
    };
    expect(
      problems(
        cleanSource('harmonics', { pocket: { on: true, fromHz: 900, toHz: 300, amountDb: -6, pitch: 29 } }),
      ),
    ).toEqual(['layers[0].tones[2].source.pocket: begins at 900 Hz, above its end at 300 Hz']);
    expect(problems(cleanSource('sample', { zones: [{ ...zone, lowPitch: 60, highPitch: 50 }] }))).toEqual([
      'layers[0].tones[2].source.zones[0]: its lowest note is above its highest',
    ]);
    expect(
      problems(cleanSource('sample', { zones: [zone, { ...zone, lowVelocity: 90, highVelocity: 80 }] })),
    ).toEqual(['layers[0].tones[2].source.zones[1]: its lowest velocity is above its highest']);
    expect(problems(cleanSource('sample', { zones: [{ ...zone, loop: { from: 500, to: 500 } }] }))).toEqual([
      'layers[0].tones[2].source.zones[0]: its loop ends before it begins',
    ]);
    expect(problems(cleanSource('sample', { zones: [{ ...zone, asset: 'no hash' }] }))[0]).toMatch(
      /zones\[0\]\.asset: "no hash" is not of the form/,
    );
  });

  it('gives the JSON Schema of the same shape', () => {
    const schema = soundJsonSchema() as Loose;
    expect(schema.additionalProperties).toBe(false);
    expect(schema.properties.layers.items.properties.filters.items.properties.cutoffHz).toMatchObject({
      type: 'number',
      minimum: 20,
      maximum: 20000,
      default: 800,
    });
    expect(
      schema.properties.movers.items.oneOf.map(({ properties }: Loose) => properties.kind.const),
    ).toEqual(Object.keys(soundShape.fields.movers.of.cases));
  });
});

describe('kick, backing parts and ducking', () => {
  const part = {
    id: 'part-1',
    name: 'P',
    on: true,
    asset: 'a'.repeat(64),
    fileName: 'p.wav',
    sound: '',
    startTick: 0,
    gainDb: 0,
  };

  it('are checked against one another', () => {
    expect(
      problemsOf((s) => {
        s.backing = [part];
        s.duck.from = 'part-1';
      }),
    ).toEqual([]);
    expect(
      problemsOf((s) => {
        s.duck.from = 'part-1';
      }),
    ).toEqual(['duck.from: there is no backing part "part-1"']);
    expect(
      problemsOf((s) => {
        s.backing = [{ ...part, startTick: 5000 }];
      }),
    ).toEqual(["backing[0].startTick: 5000 is not before the loop's end at 3840"]);
    expect(
      problemsOf((s) => {
        s.backing = [part, part];
      }),
    ).toEqual(['backing[1].id: "part-1" appears twice']);
    expect(
      problemsOf((s) => {
        s.kick.wav = {
          asset: 'a'.repeat(64),
          fileName: 'k.wav',
          gainDb: 0,
          startMs: 500,
          endMs: 400,
          fadeMs: 2,
          retuneSt: 0,
          shiftMs: 0,
        };
      }),
    ).toEqual(['kick.wav: is trimmed to nothing: from 500 to 400 ms']);
    expect(
      problemsOf((s) => {
        s.lock.turns = [{ pitch: 31, turnDeg: 200 }];
      }),
    ).toEqual(['lock.turns[0].turnDeg: 200 is above 180']);
  });

  it('are checked by themselves as they are kept', () => {
    const { kick } = cleanSound();
    expect(findKickProblems(kick)).toEqual([]);
    expect(findKickProblems({ ...kick, source: 'wav' })).toEqual([
      { path: 'wav', message: 'is missing, though the kick is a WAV' },
    ]);
    expect(findKickProblems({ ...kick, made: { ...kick.made, tailHz: 5 } })).toEqual([
      { path: 'made.tailHz', message: '5 is below 25' },
    ]);
    expect(findBackingProblems(part)).toEqual([]);
    expect(findBackingProblems({ ...part, asset: 'x' })[0].path).toBe('asset');
  });
});

describe('playback systems and targets', () => {
  const system = cleanSystem('own-1');

  it('are checked where they stand: points that rise, ids that are there, and none of the program’s', () => {
    const problems = (change: (systems: Loose) => void) =>
      problemsOf((s) => {
        s.systems.own = [structuredClone(system)];
        change(s.systems as Loose);
      });
    expect(problems(() => undefined)).toEqual([]);
    expect(
      problems((systems) => {
        systems.own[0].response[3].hz = 20;
      }),
    ).toEqual(['systems.own[0].response[3].hz: 20 is not above 31.5']);
    expect(
      problems((systems) => {
        systems.leftOut = ['phone', 'own-1', 'own-2'];
      }),
    ).toEqual(['systems.leftOut[2]: there is no system "own-2"']);
    expect(
      problems((systems) => {
        systems.own[0].id = 'car';
      }),
    ).toEqual(['systems.own[0].id: "car" is a system of the program\'s']);
    expect(
      problems((systems) => {
        systems.own[0].noiseDb.pop();
      })[0],
    ).toMatch(/^systems\.own\[0\]\.noiseDb: /);
  });

  it('are checked by themselves as they are kept in the library', () => {
    const { targets, systems } = cleanSound();
    expect(findSystemProblems(system)).toEqual([]);
    expect(findSystemProblems({ ...system, response: system.response.slice(0, 1) })[0].path).toBe('response');
    expect(findTargetSetProblems({ targets, systems })).toEqual([]);
    expect(findTargetSetProblems({ targets, systems: { ...systems, leftOut: ['x'] } })).toEqual([
      { path: 'systems.leftOut[0]', message: 'there is no system "x"' },
    ]);
    // A set that was kept before a target came has it at its default.
    const { glareDb: _new, ...older } = targets;
    expect(findTargetSetProblems({ targets: older, systems })).toEqual([]);
  });
});
