import { cleanNote, cleanSound, findProblems, loopTicks, scaleNotes, trenchGrowl } from '@abyssal/core';
import fc from 'fast-check';
import { linkTarget, rowId, setAt, valueAt } from '../state/path';
import { fromBase64, toBase64 } from '../files/base64';
import { changeNotes, drawNote, lengthenNotes, moveNotes, stepPitch } from './line/line-edits';
import { addNode, bendSegment, moveNode, READY_SHAPES, removeNode } from './motion/kinds/shape-nodes';

describe('places in the document', () => {
  const sound = trenchGrowl();

  it('are read, set, and named in the parameter table', () => {
    expect(valueAt(sound, ['layers', 1, 'filters', 0, 'cutoffHz'])).toBe(150);
    expect(rowId(sound, ['layers', 1, 'filters', 0, 'cutoffHz'])).toBe('layers.*.filters.*.cutoffHz');
    expect(rowId(sound, ['layers', 1, 'tones', 0, 'source', 'widthPct'])).toBe(
      'layers.*.tones.*.source.shape.widthPct',
    );
    expect(rowId(sound, ['movers', 0, 'rateBeats'])).toBe('movers.*.wobble.rateBeats');
    expect(rowId(sound, ['movers', 1, 'decayMs'])).toBe('movers.*.envelope.decayMs');
    expect(rowId(sound, ['line', 'notes', 3, 'velocity'])).toBe('line.notes.*.velocity');
    const copy = structuredClone(sound);
    setAt(copy, ['duck', 'holdMs'], 77);
    expect(copy.duck.holdMs).toBe(77);
  });

  it("are linked by the layer's id", () => {
    expect(linkTarget(sound, ['layers', 1, 'filters', 0, 'cutoffHz'])).toBe('layers.body.filters.0.cutoffHz');
    expect(linkTarget(sound, ['layers', 1, 'tones', 0, 'source', 'widthPct'])).toBe(
      'layers.body.tones.0.source.shape.widthPct',
    );
    expect(linkTarget(sound, ['grit', 'cleanPath', 'levelDb'])).toBe('grit.cleanPath.levelDb');
  });
});

describe('edits of the line', () => {
  const notes = [
    cleanNote({ tick: 0, ticks: 480, pitch: 29 }),
    cleanNote({ tick: 960, ticks: 480, pitch: 32 }),
  ];
  const all = new Set([0, 1]);

  it("move together, and stop together at the loop's ends", () => {
    expect(moveNotes(notes, all, 240, (p) => p, 1).map(({ tick }) => tick)).toEqual([240, 1200]);
    expect(moveNotes(notes, all, 5000, (p) => p, 1).map(({ tick }) => tick)).toEqual([480, 1440]);
    expect(moveNotes(notes, all, -5000, (p) => p, 1).map(({ tick }) => tick)).toEqual([0, 960]);
    expect(moveNotes(notes, new Set([1]), -480, (p) => p + 12, 1)).toMatchObject([
      { tick: 0, pitch: 29 },
      { tick: 480, pitch: 44 },
    ]);
  });

  it("lengthen to the loop's end and shorten to one step", () => {
    expect(lengthenNotes(notes, all, 9999, 120, 1).map(({ ticks }) => ticks)).toEqual([1920, 960]);
    expect(lengthenNotes(notes, all, -9999, 120, 1).map(({ ticks }) => ticks)).toEqual([120, 120]);
    // A note that is shorter than a step already is not made longer by being shortened.
    expect(lengthenNotes([cleanNote({ ticks: 40 })], new Set([0]), -120, 120, 1)[0].ticks).toBe(40);
  });

  it('draw, and change what is chosen only', () => {
    expect(drawNote(notes, 1800, 31, 480, 1)[2]).toMatchObject({ tick: 1800, ticks: 120, pitch: 31 });
    expect(
      changeNotes(notes, new Set([1]), ({ velocity }) => ({ velocity: velocity + 4 })).map(
        ({ velocity }) => velocity,
      ),
    ).toEqual([100, 104]);
  });

  it('step through the rows of the scale, from a note outside it too', () => {
    const rows = scaleNotes('F', 'minor', 24, 48);
    expect(stepPitch(rows, 29, 1)).toBe(31);
    expect(stepPitch(rows, 30, 1)).toBe(31);
    expect(stepPitch(rows, 30, -1)).toBe(29);
    expect(stepPitch(rows, 48, 5)).toBe(48);
  });

  it('never leave the loop, whatever is done', () => {
    const edits = fc.array(
      fc.tuple(
        fc.constantFrom('move', 'lengthen', 'draw'),
        fc.integer({ min: -6000, max: 6000 }),
        fc.integer({ min: -40, max: 40 }),
      ),
      { maxLength: 12 },
    );
    fc.assert(
      fc.property(edits, (steps) => {
        let line = notes;
        for (const [kind, ticks, semitones] of steps) {
          const chosen = new Set([Math.abs(semitones) % line.length]);
          if (kind === 'move') line = moveNotes(line, chosen, ticks, (p) => p + semitones, 1);
          else if (kind === 'lengthen') line = lengthenNotes(line, chosen, ticks, 120, 1);
          else line = drawNote(line, Math.abs(ticks) % loopTicks(1), 40, 480, 1);
        }
        const sound = cleanSound();
        expect(
          findProblems({
            ...sound,
            ground: { ...sound.ground, bars: 1 },
            kick: { ...sound.kick, hits: [] },
            line: { notes: line },
          }),
        ).toEqual([]);
      }),
    );
  });
});

describe('a drawn shape', () => {
  const { hill } = READY_SHAPES;

  it('keeps its ends, and its order', () => {
    expect(moveNode(hill, 0, 0.4, 0.7)[0]).toMatchObject({ x: 0, y: 0.7 });
    expect(moveNode(hill, 2, 0.4, 2)[2]).toMatchObject({ x: 1, y: 1 });
    expect(moveNode(hill, 1, 5, 0.2)[1]).toMatchObject({ x: 1, y: 0.2 });
    expect(removeNode(hill, 0)).toHaveLength(3);
    expect(removeNode(hill, 1)).toHaveLength(2);
  });

  it('takes a node on its line, up to 32', () => {
    const { nodes, index } = addNode(hill, 0.25)!;
    expect([index, nodes[1].y]).toEqual([1, 0.5]);
    expect(addNode(hill, 0)).toBeNull();
    let many = [...hill];
    while (many.length < 32) many = addNode(many, 0.013 * many.length + 0.001)!.nodes;
    expect(addNode(many, 0.5)).toBeNull();
  });

  it('bends within bounds', () => {
    expect(bendSegment(hill, 0, 3)[0].bend).toBe(1);
    expect(bendSegment(hill, 1, -0.25)[1].bend).toBe(-0.25);
  });

  it('stays valid, whatever is drawn', () => {
    const moves = fc.array(
      fc.tuple(
        fc.nat(40),
        fc.double({ min: -0.5, max: 1.5, noNaN: true }),
        fc.double({ min: -0.5, max: 1.5, noNaN: true }),
      ),
      { maxLength: 20 },
    );
    fc.assert(
      fc.property(fc.constantFrom(...Object.keys(READY_SHAPES)), moves, (name, steps) => {
        let nodes = [...READY_SHAPES[name]];
        for (const [pick, x, y] of steps) {
          const i = pick % nodes.length;
          if (pick % 3 === 0) nodes = addNode(nodes, x, y)?.nodes ?? nodes;
          else if (pick % 7 === 1) nodes = removeNode(nodes, i);
          else nodes = moveNode(nodes, i, x, y);
        }
        const sound = cleanSound();
        const [wobble, ...rest] = sound.movers;
        expect(findProblems({ ...sound, movers: [{ ...wobble, nodes }, ...rest] })).toEqual([]);
      }),
    );
  });
});

describe('recordings as text', () => {
  it('come back as they were, however long', () => {
    const bytes = Uint8Array.from({ length: 100_001 }, (_, i) => (i * 31) & 255);
    expect(fromBase64(toBase64(bytes.buffer))).toEqual(bytes);
    expect(fromBase64(toBase64(new ArrayBuffer(0)))).toHaveLength(0);
  });
});
