import { findShapeProblems, shapeAt, type Cycle, type ShapeNode } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { useDrag } from '@use-gesture/react';
import { useRef, useState, type KeyboardEvent } from 'react';
import { polyline, type Point } from '../../../charts/polyline';
import { useSize } from '../../../controls/use-size';
import { sea } from '../../../theme/sea';
import { TYPE } from '../../../theme/type';
import { Choice } from '../../../controls/Choice';
import { KeptPartsDialog } from '../../../parts/KeptPartsDialog';
import { fetchPartAs, keepInLibrary } from '../../../parts/kept-parts';
import { tell, tellError } from '../../../state/view-store';
import { addNode, bendSegment, drawStep, moveNode, onGrid, READY_SHAPES, removeNode } from './shape-nodes';

const HEIGHT = 190;
const PAD = 12;
/** Cells of a cycle to which nodes may keep. */
const GRIDS = [
  { value: '0', label: 'no grid' },
  { value: '8', label: '1/8' },
  { value: '12', label: '1/12' },
  { value: '16', label: '1/16' },
] as const;

interface ShapeDrawingProps {
  readonly of: string;
  readonly nodes: readonly ShapeNode[];
  readonly onChange: (nodes: readonly ShapeNode[], group: string | null) => void;
}

/**
 * A cycle drawn by hand: drag nodes and lines, double-click to add a node, Delete to take one away; all of it
 * by keyboard too.
 */
export function ShapeDrawing({ of, nodes, onChange }: ShapeDrawingProps) {
  const [ref, { width }] = useSize<HTMLDivElement>();
  const svg = useRef<SVGSVGElement>(null);
  const [selected, setSelected] = useState<number | null>(null);
  const [grid, setGrid] = useState<'0' | '8' | '12' | '16'>('0');
  /** Whether dragging over the cycle draws steps of the grid. */
  const [inSteps, setInSteps] = useState(false);
  const [fetching, setFetching] = useState(false);
  const cells = Number(grid);
  const steps = inSteps && cells > 0;
  const inner = width - 2 * PAD;
  const px = (x: number) => PAD + x * inner;
  const py = (y: number) => HEIGHT - PAD - y * (HEIGHT - 2 * PAD);
  const from = (clientX: number, clientY: number) => {
    const box = svg.current!.getBoundingClientRect();
    return {
      x: (clientX - box.left - PAD) / inner,
      y: (HEIGHT - PAD - (clientY - box.top)) / (HEIGHT - 2 * PAD),
    };
  };
  const curve = (a: number, b: number) => {
    const steps = Math.max(2, Math.round((nodes[b].x - nodes[a].x) * 120));
    const between = Array.from({ length: steps - 1 }, (_, i): Point => {
      const x = nodes[a].x + ((nodes[b].x - nodes[a].x) * (i + 1)) / steps;
      return [px(x), py(shapeAt(nodes, x))];
    });
    const end = (node: ShapeNode): Point => [px(node.x), py(node.y)];
    return [end(nodes[a]), ...between, end(nodes[b])];
  };
  const curves = nodes.slice(0, -1).map((_node, i) => curve(i, i + 1));
  const segments = curves.map(polyline);
  const whole = polyline(curves.flat());
  const chosen = selected !== null && selected < nodes.length ? nodes[selected] : null;
  return (
    <>
      <Box ref={ref} sx={{ height: HEIGHT, bgcolor: sea.tint1 }}>
        {width > 0 && (
          <svg
            ref={svg}
            width={width}
            height={HEIGHT}
            role="group"
            aria-label={`${of}: one cycle, ${nodes.length} nodes`}
            onDoubleClick={(event) => {
              const { x, y } = from(event.clientX, event.clientY);
              const added = addNode(nodes, onGrid(x, cells), y);
              if (!added || steps) return;
              onChange(added.nodes, null);
              setSelected(added.index);
            }}
          >
            {Array.from({ length: (cells || 4) - 1 }, (_, k) => (k + 1) / (cells || 4)).map((x) => (
              <line key={x} x1={px(x)} x2={px(x)} y2={HEIGHT} stroke={sea.sheet} />
            ))}
            <line x1={0} x2={width} y1={py(0.5)} y2={py(0.5)} stroke={sea.sheet} />
            <path d={`${whole}L${px(1)} ${HEIGHT}L${px(0)} ${HEIGHT}Z`} fill={sea.tint3} fillOpacity={0.6} />
            <path d={whole} fill="none" stroke={sea.ink} strokeWidth={1.8} strokeLinejoin="round" />
            {steps && (
              <Stepper
                width={width}
                onDraw={(clientX, clientY) => {
                  const { x, y } = from(clientX, clientY);
                  const cell = Math.min(cells - 1, Math.max(0, Math.floor(x * cells)));
                  onChange(drawStep(nodes, cells, cell, y), 'steps');
                  setSelected(null);
                }}
              />
            )}
            {!steps &&
              segments.map((path, i) => (
                <Segment key={i} of={of} index={i} path={path} nodes={nodes} onChange={onChange} />
              ))}
            {!steps &&
              nodes.map((node, i) => (
                <Node
                  key={i}
                  of={of}
                  index={i}
                  node={node}
                  x={px(node.x)}
                  y={py(node.y)}
                  chosen={i === selected}
                  last={i === nodes.length - 1}
                  onChoose={() => {
                    setSelected(i);
                  }}
                  onMove={(clientX, clientY) => {
                    const to = from(clientX, clientY);
                    onChange(moveNode(nodes, i, onGrid(to.x, cells), to.y), `node ${i}`);
                  }}
                  onStep={(dx, dy) => {
                    // Along the grid it goes from line to line.
                    const to =
                      cells > 0 && dx !== 0 ? onGrid(node.x + Math.sign(dx) / cells, cells) : node.x + dx;
                    onChange(moveNode(nodes, i, to, node.y + dy), `node ${i}`);
                  }}
                  onRemove={() => {
                    onChange(removeNode(nodes, i), null);
                    setSelected(null);
                  }}
                  onAdd={() => {
                    const next = nodes[i + 1];
                    const added = next && addNode(nodes, (node.x + next.x) / 2);
                    if (added) {
                      onChange(added.nodes, null);
                      setSelected(added.index);
                    }
                  }}
                />
              ))}
          </svg>
        )}
      </Box>
      <Box
        sx={{
          display: 'flex',
          alignItems: 'center',
          flexWrap: 'wrap',
          gap: '4px',
          mt: '4px',
          fontSize: TYPE.note,
          color: sea.ink2,
          minHeight: 24,
        }}
      >
        <span>begin from</span>
        {Object.keys(READY_SHAPES).map((name) => (
          <Button
            key={name}
            variant="outlined"
            sx={{ p: '0 6px', fontSize: TYPE.note, borderColor: sea.rule }}
            onClick={() => {
              onChange(READY_SHAPES[name], null);
              setSelected(null);
            }}
          >
            {name}
          </Button>
        ))}
        <Button
          variant="text"
          sx={{ p: '0 6px', fontSize: TYPE.note }}
          onClick={() => {
            setFetching(true);
          }}
        >
          kept…
        </Button>
        <Button
          variant="text"
          sx={{ p: '0 6px', fontSize: TYPE.note }}
          onClick={() => {
            keepInLibrary('shape', of, { nodes }).then(() => {
              tell(`The shape of ${of} is kept in the library.`);
            }, tellError);
          }}
        >
          keep
        </Button>
        <Choice label="Grid of the cycle" options={GRIDS} value={grid} onChange={setGrid} />
        {cells > 0 && (
          <Button
            variant={inSteps ? 'contained' : 'outlined'}
            aria-pressed={inSteps}
            sx={{ p: '0 6px', fontSize: TYPE.note }}
            onClick={() => {
              setInSteps(!inSteps);
            }}
          >
            draw in steps
          </Button>
        )}
        <Box sx={{ flex: 1 }} />
        <span aria-live="polite">
          {chosen
            ? `node ${selected! + 1}: ${Math.round(chosen.x * 360)}°, ${Math.round(chosen.y * 100)} %`
            : steps
              ? 'drag over the cycle to draw'
              : 'double-click adds a node; drag a line to bend it'}
        </span>
      </Box>
      {fetching && (
        <KeptPartsDialog
          kind="shape"
          title="Kept shapes"
          empty="No shapes kept yet. Press “keep” under a wobble’s cycle."
          onClose={() => {
            setFetching(false);
          }}
          onChoose={(part) => {
            setFetching(false);
            fetchPartAs<Cycle>(part, findShapeProblems).then((cycle) => {
              onChange(cycle.nodes, null);
            }, tellError);
          }}
        />
      )}
    </>
  );
}

/** Takes the pointer over all of the cycle while it is drawn in steps. */
function Stepper({
  width,
  onDraw,
}: {
  readonly width: number;
  readonly onDraw: (clientX: number, clientY: number) => void;
}) {
  const bind = useDrag(
    ({ xy: [x, y], event }) => {
      event.preventDefault();
      onDraw(x, y);
    },
    { pointer: { keys: false } },
  );
  return (
    <rect
      {...bind()}
      width={width}
      height={HEIGHT}
      fill="transparent"
      style={{ cursor: 'crosshair', touchAction: 'none' }}
    />
  );
}

function Segment({
  of,
  index,
  path,
  nodes,
  onChange,
}: { readonly of: string; readonly index: number; readonly path: string } & Pick<
  ShapeDrawingProps,
  'nodes' | 'onChange'
>) {
  const { bend } = nodes[index];
  const rises = nodes[index + 1].y >= nodes[index].y ? 1 : -1;
  const bind = useDrag(
    ({ movement: [, dy], first, memo, event }) => {
      event.preventDefault();
      const start = first ? bend : (memo as number);
      onChange(bendSegment(nodes, index, start + (rises * dy) / 80), `bend ${index}`);
      return start;
    },
    { pointer: { keys: false }, threshold: 2 },
  );
  return (
    <path
      {...bind()}
      d={path}
      fill="none"
      stroke="transparent"
      strokeWidth={24}
      tabIndex={0}
      role="slider"
      aria-label={`${of} bend ${index + 1}`}
      aria-valuemin={-1}
      aria-valuemax={1}
      aria-valuenow={bend}
      onKeyDown={(event) => {
        const step = { ArrowUp: 1, ArrowDown: -1 }[event.key];
        if (step === undefined) return;
        event.preventDefault();
        onChange(bendSegment(nodes, index, bend + step * (event.shiftKey ? 0.01 : 0.05)), `bend ${index}`);
      }}
      style={{ cursor: 'ns-resize', touchAction: 'none' }}
    />
  );
}

interface NodeProps {
  readonly of: string;
  readonly index: number;
  readonly node: ShapeNode;
  readonly x: number;
  readonly y: number;
  readonly chosen: boolean;
  readonly last: boolean;
  readonly onChoose: () => void;
  readonly onMove: (clientX: number, clientY: number) => void;
  readonly onStep: (dx: number, dy: number) => void;
  readonly onRemove: () => void;
  readonly onAdd: () => void;
}

function Node({ of, index, node, x, y, chosen, last, onChoose, onMove, onStep, onRemove, onAdd }: NodeProps) {
  const bind = useDrag(
    ({ xy: [px, py], event, tap }) => {
      event.preventDefault();
      onChoose();
      if (!tap) onMove(px, py);
    },
    { pointer: { keys: false }, filterTaps: true },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const fine = event.shiftKey ? 0.002 : 0.02;
    const move = { ArrowRight: [fine, 0], ArrowLeft: [-fine, 0], ArrowUp: [0, fine], ArrowDown: [0, -fine] }[
      event.key
    ];
    if (move) onStep(move[0], move[1]);
    else if (event.key === 'Delete' || event.key === 'Backspace') onRemove();
    else if (event.key === 'Enter' && !last) onAdd();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <g
      {...bind()}
      tabIndex={0}
      role="slider"
      aria-label={`${of} node ${index + 1}`}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(node.y * 100)}
      aria-valuetext={`${Math.round(node.y * 100)} % at ${Math.round(node.x * 360)} degrees`}
      onFocus={onChoose}
      onKeyDown={onKeyDown}
      onDoubleClick={(event) => {
        event.stopPropagation();
        onRemove();
      }}
      style={{ cursor: 'move', touchAction: 'none' }}
    >
      <circle cx={x} cy={y} r={12} fill="transparent" />
      <rect
        x={x - 6}
        y={y - 6}
        width={12}
        height={12}
        transform={`rotate(45 ${x} ${y})`}
        fill={chosen ? sea.note : sea.sheet}
        stroke={sea.ink}
        strokeWidth={1.4}
      />
    </g>
  );
}
