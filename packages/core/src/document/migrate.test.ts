import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { renderLoop } from '../engine/index.js';
import { plainGrowl } from '../testing/plain-growl.js';
import { db } from '../testing/signals.js';
import { damping } from '../dsp/index.js';
import { cleanBacking, cleanWavKick } from './defaults.js';
import { migrate, migratePart, resonanceFromQ } from './migrate.js';
import { FORMAT_VERSION } from './shape.js';
import { findKickProblems, findLayerProblems, findProblems, readDocument } from './validate.js';

/** A sound as version 1 of the program wrote it. */
const old = () =>
  (
    JSON.parse(readFileSync(resolve(__dirname, '../testing/older/version-1.json'), 'utf8')) as Record<
      string,
      never
    >[]
  ).find(({ name }) => name === 'Trench Growl')!;

describe('a document of version 1', () => {
  it('is taken as one of the present version, its links under their new names', () => {
    const sound = readDocument(old());
    expect(sound.formatVersion).toBe(FORMAT_VERSION);
    expect(sound.layers[1].tones.map(({ on }) => on)).toEqual([true, false, false]);
    expect(sound.layers[1].tones[0].source).toEqual({ kind: 'shape', shape: 'saw', widthPct: 50 });
    expect(sound.layers[1].filters[0]).toMatchObject({
      on: true,
      mode: 'low',
      form: 'state',
      slope: '24',
      cutoffHz: 150,
    });
    expect(sound.links.map(({ target }) => target)).toEqual([
      'layers.body.filters.0.cutoffHz',
      'layers.body.filters.0.driveDb',
      'layers.body.filters.0.resonancePct',
      'layers.body.filters.0.cutoffHz',
    ]);
    expect(sound.feedback.on).toBe(false);
  });

  it('sounds as it did: as the same demo sound written in the present version', () => {
    const options = { sampleRateHz: 24000, stems: 'none' } as const;
    const was = renderLoop(readDocument(old()), options).bass.left;
    // The present one's notes set the wobble's rate, which version 1 could not.
    const demo = plainGrowl();
    const links = demo.links.filter(({ mover }) => mover !== 'steps-1');
    const now = renderLoop({ ...demo, links, lock: readDocument(old()).lock }, options).bass.left;
    let difference = 0;
    let level = 0;
    for (let i = 0; i < was.length; i++) {
      difference += (was[i] - now[i]) ** 2;
      level += now[i] ** 2;
    }
    expect(db(Math.sqrt(difference / level))).toBeLessThan(-40);
  });

  it('of version 2 has what it lacks filled in, and sounds as it did', () => {
    const now = plainGrowl();
    const { swingPct: _s, shared: _h, ...kick } = now.kick;
    const {
      body: _b,
      squarePct: _q,
      noiseWidthOct: _n,
      dropBy: _d,
      kneeHz: _k,
      settleMs: _m,
      settleBend: _e,
      dropCycles: _c,
      kneePct: _p,
      startDeg: _g,
      lengthMs: _l,
      driveDb: _v,
      click: _i,
      clickShape: _t,
      clickShapePct: _u,
      clickWav: _w,
      ...made
    } = kick.made;
    const { backing: _x, ...rest } = now;
    const second = {
      ...rest,
      formatVersion: 2,
      kick: { ...kick, made, wav: { asset: 'a'.repeat(64), fileName: 'k.wav', gainDb: -3 } },
      line: { notes: now.line.notes.map(({ carries: _y, ...note }) => note) },
      duck: { on: true, amountDb: 8, attackMs: 3, holdMs: 25, returnMs: 140, bend: 0.2 },
      lock: { belowHz: 110, turnDeg: 12, nudgeMs: 1 },
    };
    const read = readDocument(second);
    expect(read.formatVersion).toBe(FORMAT_VERSION);
    expect(read.kick.made).toEqual(now.kick.made);
    expect(read.kick.wav).toEqual({
      asset: 'a'.repeat(64),
      fileName: 'k.wav',
      gainDb: -3,
      startMs: 0,
      endMs: 20000,
      fadeMs: 2,
      retuneSt: 0,
      shiftMs: 0,
    });
    expect(read.duck).toEqual({
      ...now.duck,
      on: true,
      amountDb: 8,
      attackMs: 3,
      holdMs: 25,
      returnMs: 140,
      bend: 0.2,
    });
    expect(read.lock).toEqual({ belowHz: 110, turnDeg: 12, nudgeMs: 1, invert: false, turns: [] });
    expect(read.line).toEqual(now.line);
    expect(read.backing).toEqual([]);
  });

  it('of version 3 has backing parts that are recordings', () => {
    const { sound: _s, ...part } = cleanBacking('part-1', 'a'.repeat(64), 'drums.wav');
    const third = { ...plainGrowl(), formatVersion: 3, backing: [part] };
    expect(readDocument(third).backing).toEqual([cleanBacking('part-1', 'a'.repeat(64), 'drums.wav')]);
    expect(findProblems({ ...third, backing: [{ ...part, gainDb: 99 }] })).toEqual([
      { path: 'backing[0].gainDb', message: '99 is above 12' },
    ]);
    expect(findProblems({ ...third, backing: 'none' })[0].path).toBe('backing');
    const of = { ...part, sound: '0b4f0c5e-0000-4000-8000-000000000000' };
    expect(migratePart('backing', of)).toEqual(of);
  });

  it('of version 4 has phases that begin with the note, and trims that fade as they did; kept parts likewise', () => {
    const now = plainGrowl();
    now.kick.wav = cleanWavKick('a'.repeat(64), 'k.wav');
    const layers = now.layers.map(({ voice: { restart: _r, ...voice }, ...layer }) => ({ ...layer, voice }));
    const { fadeMs: _f, ...wav } = now.kick.wav;
    const kick = { ...now.kick, wav };
    expect(readDocument({ ...now, formatVersion: 4, layers, kick })).toEqual(now);
    expect(migratePart('layer', layers[0])).toEqual(now.layers[0]);
    expect(findLayerProblems(layers[1])).toEqual([]);
    expect(migratePart('kick', kick)).toEqual(now.kick);
    expect(findKickProblems(kick)).toEqual([]);
    expect(migratePart('layer', now.layers[0])).toEqual(now.layers[0]);
    expect(
      findProblems({ ...now, formatVersion: 4, layers: [{ ...layers[0], voice: 3 }], kick: 'none' }).map(
        ({ path }) => path,
      ),
    ).toEqual(['kick', 'layers[0].voice']);
  });

  it('of version 6 keeps the step in which its line is drawn, under whatever name it stood', () => {
    const { drawStep: _d, ...now } = plainGrowl();
    const sixth = { ...now, formatVersion: 6, stepOfTheLine: '1/8T' };
    expect(readDocument(sixth)).toEqual({ ...plainGrowl(), drawStep: '1/8T' });
    expect(
      findProblems({ ...sixth, stepOfTheLine: '1/7' })
        .map(({ path }) => path)
        .sort(),
    ).toEqual(['drawStep', 'stepOfTheLine']);
  });

  it('keeps the ring of its filters', () => {
    for (const q of [0.5, 0.71, 2.2, 20]) expect(1 / damping(resonanceFromQ(q) / 100)).toBeCloseTo(q, 1);
  });

  it('that is wrong is told by the names of the present version, and nothing else is touched', () => {
    const wrong = old() as unknown as { layers: { filter: { cutoffHz: number } }[] };
    wrong.layers[1].filter.cutoffHz = 5;
    expect(findProblems(wrong)).toEqual([
      { path: 'layers[1].filters[0].cutoffHz', message: '5 is below 20' },
    ]);
    expect(findProblems({ ...old(), layers: 'none' }).length).toBeGreaterThan(0);
    expect(findProblems({ ...old(), layers: [3] }).length).toBeGreaterThan(0);
    const now = plainGrowl();
    expect(migrate(now)).toBe(now);
  });
});
