import { formatValue, parameter, type MoverOf } from '@abyssal/core';
import { ParameterRow } from '../../../controls/ParameterRow';
import { Panel } from '../../../controls/Panel';
import { ToggleTitle } from '../../../controls/ToggleTitle';
import { edit } from '../../../state/document-store';
import { EnvelopeDrawing } from '../../../charts/EnvelopeDrawing';
import type { MoverView } from './mover-view';

type EnvelopeMover = MoverOf<'envelope'>;

const DECAY = parameter('movers.*.envelope.decayMs');

const FIELDS = ['attackMs', 'decayMs', 'sustainPct', 'releaseMs'] as const;

/** An envelope mover: runs with each note. */
function EnvelopePanel({ index, mover }: { readonly index: number; readonly mover: EnvelopeMover }) {
  return (
    <Panel
      label={mover.name}
      title={
        <ToggleTitle
          label={mover.name}
          on={mover.on}
          onToggle={() => {
            edit(mover.name, (draft) => {
              draft.movers[index].on = !mover.on;
            });
          }}
        />
      }
      aside="starts with each note"
    >
      <EnvelopeDrawing
        of={mover.name}
        times={mover}
        rowPrefix="movers.*.envelope"
        onChange={(field, value) => {
          if (field !== 'delayMs' && field !== 'holdMs')
            edit(
              `${mover.name} · shape`,
              (draft) => {
                (draft.movers[index] as EnvelopeMover)[field] = value;
              },
              `${mover.id} ${field}`,
            );
        }}
      />
      {FIELDS.map((field) => (
        <ParameterRow key={field} path={['movers', index, field]} of={mover.name} />
      ))}
    </Panel>
  );
}

export const envelope: MoverView<'envelope'> = {
  Panel: EnvelopePanel,
  summary: ({ decayMs }) => `envelope, ${formatValue(DECAY, decayMs)}`,
  outlinesNotes: false,
};
