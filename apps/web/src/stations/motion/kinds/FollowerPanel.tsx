import { formatValue, parameter, type MoverOf } from '@abyssal/core';
import { Choice } from '../../../controls/Choice';
import { ListChoice } from '../../../controls/ListChoice';
import { ParameterRow } from '../../../controls/ParameterRow';
import { edit, useSound } from '../../../state/document-store';
import { MoverFrame, MoverRows } from './MoverFrame';
import type { MoverView } from './mover-view';
import { partOptions } from './starters';

type Follower = MoverOf<'follower'>;

const TIMES = [parameter('movers.*.follower.attackMs'), parameter('movers.*.follower.releaseMs')];

/** Follows how loud something is. */
function FollowerPanel({ index, mover }: { readonly index: number; readonly mover: Follower }) {
  const backing = useSound((sound) => sound.backing);
  const change = (label: string, recipe: (draft: Follower) => void) => {
    edit(`${mover.name} · ${label}`, (draft) => {
      recipe(draft.movers[index] as Follower);
    });
  };
  return (
    <MoverFrame
      index={index}
      mover={mover}
      aside={
        <>
          <ListChoice
            label="Follows"
            options={[
              { value: 'kick', label: 'the kick' },
              { value: 'self', label: 'the layer it moves' },
              ...partOptions({ backing }),
            ]}
            value={mover.of}
            onChange={(of) => {
              change('follows', (draft) => {
                draft.of = of;
              });
            }}
          />
          <Choice
            label="As"
            options={[
              { value: 'level', label: 'level' },
              { value: 'gate', label: 'gate' },
            ]}
            value={mover.gate ? 'gate' : 'level'}
            onChange={(as) => {
              change(as, (draft) => {
                draft.gate = as === 'gate';
              });
            }}
          />
        </>
      }
    >
      <MoverRows>
        {(['attackMs', 'releaseMs', 'gainDb', mover.gate ? 'thresholdDb' : 'floorDb'] as const).map(
          (field) => (
            <ParameterRow key={field} path={['movers', index, field]} of={mover.name} labelWidth={70} />
          ),
        )}
      </MoverRows>
    </MoverFrame>
  );
}

export const follower: MoverView<'follower'> = {
  name: 'Follower',
  help: 'Follows how loud the kick, a backing part or the layer itself is.',
  Panel: FollowerPanel,
  summary: ({ attackMs, releaseMs, gate }) =>
    gate
      ? 'gate'
      : `${formatValue(TIMES[0], attackMs).replace(' ms', '')} / ${formatValue(TIMES[1], releaseMs)}`,
  outlinesNotes: false,
};
