import {
  DIVISIONS,
  formatDivision,
  formatValue,
  fromPosition,
  MOST_STEPS,
  parameter,
  parseEntry,
  toPosition,
  type MoverOf,
  type SoundDocument,
} from '@abyssal/core';
import { Box, Button, IconButton } from '@mui/material';
import { useDrag } from '@use-gesture/react';
import { Minus, Plus } from 'lucide-react';
import { useRef, useState, type KeyboardEvent } from 'react';
import { Choice } from '../../../controls/Choice';
import { ListChoice } from '../../../controls/ListChoice';
import { ParameterRow } from '../../../controls/ParameterRow';
import { edit, useDocument } from '../../../state/document-store';
import { tell } from '../../../state/view-store';
import { sea } from '../../../theme/sea';
import { TYPE } from '../../../theme/type';
import { addLink, full } from '../../../state/link-edits';
import { MoverFrame } from './MoverFrame';
import type { MoverView } from './mover-view';

type Steps = MoverOf<'steps'>;

const HEIGHT = 130;
const RATE = parameter('movers.*.wobble.rateBeats');
const EACH = [
  ['1/4', 1],
  ['1/8', 0.5],
  ['1/8T', 1 / 3],
  ['1/16', 0.25],
  ['1/16T', 1 / 6],
  ['1/32', 0.125],
] as const;
const clamp = (x: number) => Math.min(1, Math.max(0, x));
const round = (x: number) => Math.round(clamp(x) * 1000) / 1000;

/** Rates that the steps of a wobble's rate begin with, in beats: one after the other. */
const FIRST_RATES = [1, 1 / 3, 0.5, 0.25];
/** The slowest and the fastest rate that steps go between when they set a wobble's rate. */
const SLOWEST = 4;
const FASTEST = 1 / 12;

/** The wobble whose rate the steps set, by which link; null where they set none. */
function rateLink(document: SoundDocument, id: string) {
  for (const link of document.links) {
    const match = link.mover === id ? /^movers\.([a-z0-9-]+)\.rateBeats$/.exec(link.target) : null;
    const wobble = match && document.movers.find((mover) => mover.id === match[1]);
    if (wobble?.kind === 'wobble') return { link, wobble };
  }
  return null;
}

/** The rate in beats that a step gives a wobble, as its link carries it. */
function rateOf(found: NonNullable<ReturnType<typeof rateLink>>, value: number): number {
  const { link, wobble } = found;
  const at =
    toPosition(RATE, wobble.rateBeats) + (link.fromPct + (link.reachPct - link.fromPct) * value) / 100;
  const beats = fromPosition(RATE, at);
  return wobble.keepsBeat
    ? DIVISIONS.reduce((best, each) =>
        Math.abs(Math.log(each / beats)) < Math.abs(Math.log(best / beats)) ? each : best,
      )
    : beats;
}

/** The value of a step that gives a wobble a rate. */
function valueFor({ link, wobble }: NonNullable<ReturnType<typeof rateLink>>, beats: number): number {
  const way = toPosition(RATE, beats) - toPosition(RATE, wobble.rateBeats);
  return round((100 * way - link.fromPct) / (link.reachPct - link.fromPct || 1));
}

/** A row of values, one after the other. */
function StepsPanel({ index, mover }: { readonly index: number; readonly mover: Steps }) {
  const document = useDocument();
  const rated = rateLink(document, mover.id);
  const wobbles = document.movers.filter((each) => each.kind === 'wobble');
  const change = (label: string, recipe: (draft: Steps) => void, group: string | null = null) => {
    edit(
      `${mover.name} · ${label}`,
      (draft) => {
        recipe(draft.movers[index] as Steps);
      },
      group,
    );
  };
  const setValue = (step: number, value: number) => {
    change(
      `step ${step + 1}`,
      (draft) => {
        draft.values[step] = round(value);
      },
      `${mover.id} step ${step}`,
    );
  };
  const setRateOf = (id: string) => {
    const why = full(document, 'links');
    if (why) return tell(why);
    edit(`${mover.name} sets the rate`, (draft) => {
      const wobble = draft.movers.find((each) => each.id === id) as MoverOf<'wobble'>;
      wobble.rateIn = 'beats';
      const base = toPosition(RATE, wobble.rateBeats);
      addLink(draft, mover.id, `movers.${id}.rateBeats`, {
        fromPct: Number((100 * (toPosition(RATE, SLOWEST) - base)).toFixed(2)),
        reachPct: Number((100 * (toPosition(RATE, FASTEST) - base)).toFixed(2)),
      });
      const found = rateLink(draft, mover.id)!;
      (draft.movers[index] as Steps).values = mover.values.map((_value, i) =>
        valueFor(found, FIRST_RATES[i % FIRST_RATES.length]),
      );
    });
  };
  return (
    <MoverFrame
      index={index}
      mover={mover}
      aside={
        <>
          <Choice
            label="The next one"
            options={[
              { value: 'note', label: 'with each note' },
              { value: 'kick', label: 'with each kick' },
              { value: 'time', label: 'in time' },
            ]}
            value={mover.next}
            onChange={(next) => {
              change('next', (draft) => {
                draft.next = next;
              });
            }}
          />
          <ListChoice
            label="Order"
            options={[
              'in order',
              'backwards',
              'there and back',
              { value: 'any', label: 'any (never twice)' },
            ]}
            value={mover.order}
            onChange={(order) => {
              change('order', (draft) => {
                draft.order = order;
              });
            }}
          />
        </>
      }
    >
      <Bars
        mover={mover}
        textOf={(value) =>
          rated ? (formatDivision(rateOf(rated, value)) ?? formatValue(RATE, rateOf(rated, value))) : null
        }
        read={(typed) => {
          const entry = rated ? parseEntry(RATE, typed, 440) : null;
          if (entry?.ok && rated) return valueFor(rated, entry.value);
          const number = Number(typed.replace('%', ''));
          return typed.trim() !== '' && Number.isFinite(number) ? round(number / 100) : null;
        }}
        onChange={setValue}
      />
      <Box sx={{ display: 'flex', alignItems: 'center', flexWrap: 'wrap', gap: '4px', mt: '4px' }}>
        <IconButton
          size="small"
          aria-label="One step fewer"
          disabled={mover.values.length <= 2}
          onClick={() => {
            change('fewer steps', (draft) => {
              draft.values.pop();
            });
          }}
        >
          <Minus size={15} />
        </IconButton>
        <span>{mover.values.length} steps</span>
        <IconButton
          size="small"
          aria-label="One step more"
          disabled={mover.values.length >= MOST_STEPS}
          onClick={() => {
            change('more steps', (draft) => {
              draft.values.push(draft.values[draft.values.length - 1]);
            });
          }}
        >
          <Plus size={15} />
        </IconButton>
        {mover.next === 'time' && (
          <Choice
            label="Each"
            options={EACH.map(([label, beats]) => ({ value: String(beats), label }))}
            value={String(EACH.find(([, beats]) => Math.abs(beats - mover.rateBeats) < 1e-6)?.[1] ?? '')}
            onChange={(beats) => {
              change('each', (draft) => {
                draft.rateBeats = Number(beats);
              });
            }}
          />
        )}
        <Box sx={{ flex: 1 }} />
        {!rated &&
          wobbles.map((wobble) => (
            <Button
              key={wobble.id}
              variant="contained"
              onClick={() => {
                setRateOf(wobble.id);
              }}
            >
              Set the rate of {wobble.name}
            </Button>
          ))}
        {rated && (
          <Box component="span" sx={{ color: sea.ink2, fontSize: TYPE.control }}>
            sets the rate of {rated.wobble.name}; type 1/8T into a step
          </Box>
        )}
      </Box>
      <ParameterRow path={['movers', index, 'glideMs']} of={mover.name} labelWidth={70} />
    </MoverFrame>
  );
}

interface BarsProps {
  readonly mover: Steps;
  /** What a value means, where it has a meaning of its own. */
  readonly textOf: (value: number) => string | null;
  readonly read: (typed: string) => number | null;
  readonly onChange: (step: number, value: number) => void;
}

/** The values as bars: drag across them to draw, arrows change one, typing sets it. */
function Bars({ mover, textOf, read, onChange }: BarsProps) {
  const box = useRef<HTMLDivElement>(null);
  const [typing, setTyping] = useState<{ readonly step: number; readonly text: string } | null>(null);
  const bind = useDrag(
    ({ xy: [x, y], event, tap }) => {
      event.preventDefault();
      if (tap) return;
      const { left, top, width, height } = box.current!.getBoundingClientRect();
      const step = Math.floor(((x - left) / width) * mover.values.length);
      if (step >= 0 && step < mover.values.length) onChange(step, 1 - (y - top) / height);
    },
    { pointer: { keys: false }, filterTaps: true },
  );
  const onKeyDown = (event: KeyboardEvent, step: number) => {
    const up = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[event.key];
    if (up !== undefined) onChange(step, mover.values[step] + up * (event.shiftKey ? 0.002 : 0.02));
    else if (/^[0-9]$/.test(event.key)) setTyping({ step, text: event.key });
    else if (event.key === 'Enter') setTyping({ step, text: '' });
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Box
      ref={box}
      {...bind()}
      role="group"
      aria-label={`${mover.name}, ${mover.values.length} steps`}
      sx={{ display: 'flex', gap: '3px', height: HEIGHT, bgcolor: sea.tint1, touchAction: 'none' }}
    >
      {mover.values.map((value, step) => (
        <Box
          key={step}
          role="slider"
          tabIndex={0}
          aria-label={`${mover.name} step ${step + 1}`}
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuenow={Math.round(100 * value)}
          aria-valuetext={textOf(value) ?? `${Math.round(100 * value)} %`}
          onKeyDown={(event) => {
            onKeyDown(event, step);
          }}
          onDoubleClick={() => {
            setTyping({ step, text: '' });
          }}
          sx={{ position: 'relative', flex: 1, minWidth: 0, cursor: 'ns-resize' }}
        >
          <Box
            style={{ height: `${100 * value}%` }}
            sx={{
              position: 'absolute',
              left: 0,
              right: 0,
              bottom: 0,
              bgcolor: sea.tint3,
              borderTop: `2px solid ${sea.ink}`,
            }}
          />
          <Box
            sx={{
              position: 'absolute',
              left: 0,
              right: 0,
              bottom: 2,
              textAlign: 'center',
              fontSize: TYPE.note,
              color: sea.ink,
              pointerEvents: 'none',
              whiteSpace: 'nowrap',
              overflow: 'hidden',
            }}
          >
            {mover.values.length <= 12 && (textOf(value) ?? Math.round(100 * value))}
          </Box>
          {typing?.step === step && (
            <Box
              component="input"
              autoFocus
              aria-label={`${mover.name} step ${step + 1}, value`}
              value={typing.text}
              onChange={(event) => {
                setTyping({ step, text: event.target.value });
              }}
              onBlur={() => {
                setTyping(null);
              }}
              onKeyDown={(event) => {
                event.stopPropagation();
                if (event.key === 'Escape') setTyping(null);
                if (event.key !== 'Enter') return;
                const found = read(typing.text);
                if (found === null)
                  return tell('Type a value such as 40%, or a rate such as 1/8T where the steps set one.');
                onChange(step, found);
                setTyping(null);
              }}
              sx={{
                position: 'absolute',
                left: 0,
                right: 0,
                bottom: 0,
                width: '100%',
                height: 24,
                font: 'inherit',
                fontSize: TYPE.control,
                border: `1px solid ${sea.note}`,
                bgcolor: sea.sheet,
                color: sea.ink,
              }}
            />
          )}
        </Box>
      ))}
    </Box>
  );
}

const NEXT = { note: 'by note', kick: 'by kick', time: 'in time' } as const;

export const steps: MoverView<'steps'> = {
  name: 'Note steps',
  help: 'A row of values, the next one with each note, each kick or in time.',
  Panel: StepsPanel,
  summary: ({ values, order, next }) => `${values.length} values, ${order === 'any' ? 'any' : NEXT[next]}`,
  outlinesNotes: false,
};
