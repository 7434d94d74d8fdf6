import { IN_VIEW, KEY_NAMES, loopTicks, SCALE_NAMES, type KeyName, type ScaleName } from '@abyssal/core';
import { Box } from '@mui/material';
import { useState } from 'react';
import { Choice } from '../../controls/Choice';
import { Columns } from '../../controls/Columns';
import { ListChoice } from '../../controls/ListChoice';
import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { Row } from '../../controls/Row';
import { edit, useSound } from '../../state/document-store';
import { BackingPanel } from './BackingPanel';
import { KeyChangeDialog } from './KeyChangeDialog';
import { KickBeats } from './KickBeats';
import { KickFiguresPanel } from './KickFiguresPanel';
import { KickPanel } from './KickPanel';
import { SystemsPanel } from './SystemsPanel';

function Pick<T extends string>({
  label,
  options,
  value,
  onChange,
}: {
  readonly label: string;
  readonly options: readonly T[];
  readonly value: T;
  readonly onChange: (value: T) => void;
}) {
  return (
    <Row label={label}>
      <ListChoice label={label} options={options} value={value} onChange={onChange} />
    </Row>
  );
}

/** What the third panel shows. */
const THIRD = { aims: 'Targets', backing: 'Backing parts', systems: 'Systems' } as const;

/** What the figures in view are held against first of all. */
const TARGETS = Object.values(IN_VIEW).map(({ targets: [target] }) => target);

/** What the bass has to stand on: tempo, key, length, and the kick. */
export function GroundStation() {
  const ground = useSound((sound) => sound.ground);
  const [asked, setAsked] = useState<{ readonly key: KeyName; readonly scale: ScaleName } | null>(null);
  const noted = useSound(({ line }) => line.notes.length > 0);
  /** Without notes there is nothing to ask. */
  const setKey = (to: { readonly key: KeyName; readonly scale: ScaleName }) => {
    if (noted) setAsked(to);
    else
      edit('key', (draft) => {
        Object.assign(draft.ground, to);
      });
  };
  const [third, setThird] = useState<keyof typeof THIRD>('aims');
  /**
   * A shorter loop keeps the notes and hits that lie within it; those beyond are cut, and undo brings them
   * back.
   */
  const setBars = (bars: number) => {
    edit('bars', (draft) => {
      const end = loopTicks(bars);
      draft.ground.bars = bars;
      draft.kick.hits = draft.kick.hits.filter(({ tick }) => tick < end);
      for (const part of draft.backing) part.startTick = Math.min(part.startTick, end - 1);
      draft.line.notes = draft.line.notes
        .filter(({ tick }) => tick < end)
        .map((note) => ({ ...note, ticks: Math.min(note.ticks, end - note.tick) }));
    });
  };
  return (
    <Columns of="minmax(0, 1.25fr) minmax(0, 1fr)">
      <KickPanel />
      <Box sx={{ display: 'grid', gap: '10px' }}>
        <Panel title="Ground">
          <ParameterRow path={['ground', 'tempoBpm']} />
          <Pick
            label="Key"
            options={KEY_NAMES}
            value={ground.key}
            onChange={(key) => {
              setKey({ key, scale: ground.scale });
            }}
          />
          <Pick
            label="Scale"
            options={SCALE_NAMES}
            value={ground.scale}
            onChange={(scale) => {
              setKey({ key: ground.key, scale });
            }}
          />
          <Pick
            label="Bars"
            options={['1', '2', '4', '8']}
            value={String(ground.bars)}
            onChange={(bars) => {
              setBars(Number(bars));
            }}
          />
          <ParameterRow path={['ground', 'a4Hz']} />
        </Panel>
        <KickFiguresPanel />
        <Panel
          label={THIRD[third]}
          title={
            <Choice
              label="Third panel"
              options={(Object.keys(THIRD) as (keyof typeof THIRD)[]).map((value) => ({
                value,
                label: THIRD[value],
              }))}
              value={third}
              onChange={setThird}
            />
          }
        >
          {third === 'backing' && <BackingPanel />}
          {third === 'systems' && <SystemsPanel />}
          {third === 'aims' && (
            <>
              {TARGETS.map((target) => (
                <ParameterRow key={target} path={['targets', target]} />
              ))}
              <ParameterRow path={['output', 'levelDb']} label="Bass level" />
              <ParameterRow path={['output', 'ceilingDb']} />
            </>
          )}
        </Panel>
      </Box>
      <Box sx={{ gridColumn: '1 / -1' }}>
        <KickBeats />
      </Box>
      {asked && (
        <KeyChangeDialog
          to={asked}
          onClose={() => {
            setAsked(null);
          }}
        />
      )}
    </Columns>
  );
}
