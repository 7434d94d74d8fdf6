import { duckCurveDb, type Click, type Duck } from '@abyssal/core';
import { Box } from '@mui/material';
import { memo } from 'react';
import { Choice } from '../../controls/Choice';
import { ListChoice } from '../../controls/ListChoice';
import { ToldText } from '../../controls/Mark';
import { ParameterRow } from '../../controls/ParameterRow';
import { ToggleTitle } from '../../controls/ToggleTitle';
import { edit, useSound } from '../../state/document-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';

const SHOWN_MS = 600;
const DEEPEST_DB = 30;

/** Ducking of the bass: by the kick's beats or by a level, on level, lows or a filter, or hard. */
export const DuckPanel = memo(function DuckPanel({
  hardHoldMs,
  clicks,
}: {
  readonly hardHoldMs: number;
  readonly clicks: readonly Click[];
}) {
  const duck = useSound((sound) => sound.duck);
  const parts = useSound((sound) => sound.backing);
  const change = (what: string, recipe: (draft: Duck) => void) => {
    edit(`ducking · ${what}`, (draft) => {
      recipe(draft.duck);
    });
  };
  const path = Array.from({ length: 201 }, (_, i) => {
    const db = Math.max(-DEEPEST_DB, duckCurveDb(duck, (i / 200) * SHOWN_MS, hardHoldMs));
    return `${i === 0 ? 'M' : 'L'}${i} ${(3 - (db / DEEPEST_DB) * 44).toFixed(1)}`;
  }).join('');
  const byBeats = duck.by === 'beats' && !duck.hard;
  const rows = duck.hard
    ? []
    : byBeats
      ? (['amountDb', 'attackMs', 'holdMs', 'returnMs', 'bend', 'lookAheadMs'] as const)
      : (['amountDb', 'thresholdDb', 'ratio', 'attackMs', 'returnMs', 'lookAheadMs'] as const);
  return (
    <>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: '6px', alignItems: 'center', mb: '6px' }}>
        <ToggleTitle
          label="Duck the bass"
          on={duck.on}
          onToggle={() => {
            change(duck.on ? 'off' : 'on', (draft) => {
              draft.on = !duck.on;
            });
          }}
        />
        <Choice
          label="Ducking acts on"
          disabled={!duck.on}
          options={[
            { value: 'level', label: 'level' },
            { value: 'low', label: 'lows' },
            { value: 'filter', label: 'filter' },
            { value: 'hard', label: 'hard' },
          ]}
          value={duck.hard ? 'hard' : duck.acts}
          onChange={(value) => {
            change('acts on', (draft) => {
              draft.hard = value === 'hard';
              if (value !== 'hard') draft.acts = value;
              else {
                draft.by = 'beats';
                draft.from = 'kick';
              }
            });
          }}
        />
        {!duck.hard && (
          <Choice
            label="Ducking goes by"
            disabled={!duck.on}
            options={[
              { value: 'beats', label: 'its beats' },
              { value: 'level', label: 'its level' },
            ]}
            value={duck.by}
            onChange={(by) => {
              change('goes by', (draft) => {
                draft.by = by;
                if (by === 'beats') draft.from = 'kick';
              });
            }}
          />
        )}
        {!duck.hard && (
          <ListChoice
            label="Ducking follows"
            disabled={!duck.on || duck.by === 'beats'}
            value={duck.from}
            options={[
              { value: 'kick', label: 'the kick' },
              ...parts.map(({ id, name }) => ({ value: id, label: name })),
            ]}
            onChange={(from) => {
              change('follows', (draft) => {
                draft.from = from;
              });
            }}
          />
        )}
        {!duck.hard && (
          <Choice
            label="Ducking curve"
            disabled={!duck.on}
            options={[
              { value: 'exponential', label: 'even in dB' },
              { value: 'linear', label: 'linear' },
            ]}
            value={duck.curve}
            onChange={(curve) => {
              change('curve', (draft) => {
                draft.curve = curve;
              });
            }}
          />
        )}
      </Box>
      {duck.by === 'beats' || duck.hard ? (
        <Box
          component="svg"
          viewBox="0 0 200 50"
          preserveAspectRatio="none"
          role="img"
          aria-label={
            duck.hard
              ? `No bass below 120 Hz for ${Math.round(hardHoldMs)} ms after a beat`
              : `The bass goes down by ${duck.amountDb} dB and is back after ${Math.round(duck.attackMs + duck.holdMs + duck.returnMs)} ms`
          }
          sx={{ width: '100%', height: 40, bgcolor: sea.tint1, opacity: duck.on ? 1 : 0.5 }}
        >
          <path d={`${path}L200 50L0 50Z`} fill={sea.tint2} />
          <path d={path} fill="none" stroke={sea.ink} strokeWidth={1.5} vectorEffect="non-scaling-stroke" />
        </Box>
      ) : (
        <Box sx={{ fontSize: TYPE.note, color: sea.ink2, mb: '4px' }}>
          Level above the threshold is turned down by the ratio, up to the amount.
        </Box>
      )}
      {duck.hard && (
        <Box sx={{ fontSize: TYPE.control, color: sea.ink2, mt: '6px' }}>
          No bass below 120 Hz while the kick is within 20 dB of its peak: {Math.round(hardHoldMs)} ms after a
          beat. Kick and bass then cannot cancel.
        </Box>
      )}
      {duck.on && clicks.length > 0 && (
        <ToldText>
          {clicks.length === 1 ? 'A click is' : `${clicks.length} clicks are`} heard in the bass, the first at{' '}
          {clicks[0].timeS.toFixed(2)} s. A slower attack removes the ones the ducking makes.
        </ToldText>
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(2, minmax(0, 1fr))', columnGap: 2 }}>
        {rows.map((field) => (
          <ParameterRow
            key={field}
            path={['duck', field]}
            of="Duck"
            labelWidth={76}
            linkRoom={false}
            disabled={!duck.on}
          />
        ))}
        {!duck.hard && duck.acts !== 'level' && (
          <ParameterRow
            path={['duck', 'belowHz']}
            of="Duck"
            labelWidth={76}
            linkRoom={false}
            disabled={!duck.on}
            label={duck.acts === 'low' ? 'Below' : 'Closes to'}
          />
        )}
      </Box>
    </>
  );
});
