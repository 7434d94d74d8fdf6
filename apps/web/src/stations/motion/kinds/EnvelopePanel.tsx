import { formatValue, parameter, type MoverOf } from '@abyssal/core';
import { Choice } from '../../../controls/Choice';
import { ListChoice } from '../../../controls/ListChoice';
import { ParameterRow } from '../../../controls/ParameterRow';
import { EnvelopeDrawing } from '../../../charts/EnvelopeDrawing';
import { edit, useSound } from '../../../state/document-store';
import { MoverFrame, MoverRows } from './MoverFrame';
import type { MoverView } from './mover-view';
import { partOptions } from './starters';

type EnvelopeMover = MoverOf<'envelope'>;

const DECAY = parameter('movers.*.envelope.decayMs');

const FIELDS = ['delayMs', 'attackMs', 'holdMs', 'decayMs', 'sustainPct', 'releaseMs'] as const;

/** An envelope mover: runs with each note, kick or part, once or round and round. */
function EnvelopePanel({ index, mover }: { readonly index: number; readonly mover: EnvelopeMover }) {
  const backing = useSound((sound) => sound.backing);
  const change = (label: string, recipe: (draft: EnvelopeMover) => void, group: string | null = null) => {
    edit(
      `${mover.name} · ${label}`,
      (draft) => {
        recipe(draft.movers[index] as EnvelopeMover);
      },
      group,
    );
  };
  const held = mover.startedBy === 'note' && mover.loop === 'once';
  return (
    <MoverFrame
      index={index}
      mover={mover}
      aside={
        <>
          <ListChoice
            label="Started by"
            options={[
              { value: 'note', label: 'each note' },
              { value: 'kick', label: 'each kick' },
              ...partOptions({ backing }),
            ]}
            value={mover.startedBy}
            onChange={(startedBy) => {
              change('started by', (draft) => {
                draft.startedBy = startedBy;
              });
            }}
          />
          <Choice
            label="Runs"
            options={[
              { value: 'once', label: 'once' },
              { value: 'held', label: 'loops while held' },
              { value: 'always', label: 'loops always' },
            ]}
            value={mover.loop}
            onChange={(loop) => {
              change('runs', (draft) => {
                draft.loop = loop;
              });
            }}
          />
        </>
      }
    >
      <EnvelopeDrawing
        of={mover.name}
        times={mover}
        rowPrefix="movers.*.envelope"
        onChange={(field, value) => {
          change(
            'shape',
            (draft) => {
              draft[field] = value;
            },
            `${mover.id} ${field}`,
          );
        }}
      />
      <MoverRows>
        {FIELDS.map((field) => (
          <ParameterRow
            key={field}
            path={['movers', index, field]}
            of={mover.name}
            labelWidth={70}
            disabled={mover.loop === 'always' && field === 'releaseMs'}
          />
        ))}
      </MoverRows>
      {!held && mover.startedBy !== 'note' && mover.loop === 'once'
        ? 'Nothing holds it: after the decay it goes on to the release.'
        : null}
    </MoverFrame>
  );
}

const STARTS: Readonly<Record<string, string>> = { note: 'by note', kick: 'by kick' };

export const envelope: MoverView<'envelope'> = {
  name: 'Envelope',
  help: 'Rises and falls with each note, kick or hit of a part.',
  Panel: EnvelopePanel,
  // By the longer of its two ways: a swell is known by its rise.
  summary: ({ attackMs, decayMs, loop, startedBy }) =>
    `${formatValue(DECAY, Math.max(attackMs, decayMs))}, ${loop === 'once' ? (STARTS[startedBy] ?? 'by part') : 'loops'}`,
  outlinesNotes: false,
};
