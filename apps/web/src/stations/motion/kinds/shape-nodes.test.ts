import { cleanSound, findProblems, MOST_NODES, shapeAt, type ShapeNode } from '@abyssal/core';
import fc from 'fast-check';
import { addNode, bendSegment, moveNode, READY_SHAPES, removeNode } from './shape-nodes';

const problems = (nodes: readonly ShapeNode[]) => {
  const sound = cleanSound();
  return findProblems({ ...sound, movers: [{ ...sound.movers[0], nodes }] });
};
const any = fc.double({ min: -2, max: 2, noNaN: true });
const edits = fc.array(
  fc.oneof(
    fc.record({ do: fc.constant('move' as const), at: fc.nat(), x: any, y: any }),
    fc.record({ do: fc.constant('add' as const), at: fc.nat(), x: any, y: any }),
    fc.record({ do: fc.constant('remove' as const), at: fc.nat(), x: any, y: any }),
    fc.record({ do: fc.constant('bend' as const), at: fc.nat(), x: any, y: any }),
  ),
  { maxLength: 60 },
);

describe('the nodes of a cycle', () => {
  it('stay a cycle that the document takes, whatever is done to them', () => {
    fc.assert(
      fc.property(fc.constantFrom(...Object.values(READY_SHAPES)), edits, (start, list) => {
        let nodes: readonly ShapeNode[] = start;
        for (const edit of list) {
          const at = edit.at % nodes.length;
          if (edit.do === 'move') nodes = moveNode(nodes, at, edit.x, edit.y);
          else if (edit.do === 'add') nodes = addNode(nodes, edit.x, edit.y)?.nodes ?? nodes;
          else if (edit.do === 'remove') nodes = removeNode(nodes, at);
          else nodes = bendSegment(nodes, at, edit.x);
          expect(problems(nodes)).toEqual([]);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('keep the way of the line when one is added on it, where it is straight', () => {
    const { fall, hill } = READY_SHAPES;
    const straight = fall.map((node) => ({ ...node, bend: 0 }));
    for (const nodes of [hill, straight]) {
      const { nodes: more, index } = addNode(nodes, 0.3)!;
      expect(more[index].x).toBe(0.3);
      for (let x = 0; x < 1; x += 0.01) expect(shapeAt(more, x)).toBeCloseTo(shapeAt(nodes, x), 3);
    }
  });

  it('are no more than the document holds, and the two ends stay', () => {
    let nodes: readonly ShapeNode[] = READY_SHAPES.hill;
    for (let i = 1; i < 2 * MOST_NODES; i++) nodes = addNode(nodes, i / (2 * MOST_NODES))?.nodes ?? nodes;
    expect(nodes).toHaveLength(MOST_NODES);
    expect(addNode(READY_SHAPES.hill, 0)).toBeNull();
    expect(addNode(READY_SHAPES.hill, 1)).toBeNull();
    expect(removeNode(READY_SHAPES.hill, 0)).toHaveLength(3);
    expect(removeNode(READY_SHAPES.hill, 2)).toHaveLength(3);
    expect(removeNode(READY_SHAPES.hill, 1)).toHaveLength(2);
  });

  it('stop at their neighbours', () => {
    expect(moveNode(READY_SHAPES.gate, 1, 0.9, 2)[1]).toMatchObject({ x: 0.5, y: 1 });
    expect(moveNode(READY_SHAPES.gate, 0, 0.9, 0.25)[0]).toMatchObject({ x: 0, y: 0.25 });
  });
});
