import { parseDivision, TICKS_PER_BEAT } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { memo, useState } from 'react';
import { Choice } from '../../controls/Choice';
import { Panel } from '../../controls/Panel';
import { Row } from '../../controls/Row';
import { ToggleTitle } from '../../controls/ToggleTitle';
import { edit, useSound } from '../../state/document-store';
import { asPlayed, quantised } from './note-tools';
import { presentNotes } from './set-notes';

const GRIDS = ['1/4', '1/8', '1/8T', '1/16', '1/16T', '1/32'] as const;
const STRENGTHS = [
  { value: '0.5', label: '50 %' },
  { value: '0.75', label: '75 %' },
  { value: '1', label: '100 %' },
] as const;
const SWINGS = ['50', '54', '58', '62', '66'] as const;

/** Quantising: how, and back to as it was played. */
export const QuantisePanel = memo(function QuantisePanel({
  chosen,
}: {
  readonly chosen: ReadonlySet<number>;
}) {
  const [grid, setGrid] = useState<(typeof GRIDS)[number]>('1/16');
  const [strength, setStrength] = useState<'0.5' | '0.75' | '1'>('1');
  const [swing, setSwing] = useState<(typeof SWINGS)[number]>('50');
  const [ends, setEnds] = useState(false);
  const mine = () => (chosen.size > 0 ? chosen : new Set(presentNotes().keys()));
  const none = useSound(({ line }) => line.notes.length === 0);
  const played = useSound(({ line }) =>
    line.notes.some((note, i) => note.played !== null && (chosen.size === 0 || chosen.has(i))),
  );
  return (
    <Panel title="Quantise" aside={chosen.size > 0 ? 'the chosen notes' : 'all notes'}>
      <Row label="Grid">
        <Choice label="Quantise to" options={GRIDS} value={grid} onChange={setGrid} />
      </Row>
      <Row label="Strength">
        <Choice label="Strength" options={STRENGTHS} value={strength} onChange={setStrength} />
      </Row>
      <Row label="Swing">
        <Choice
          label="Swing"
          options={SWINGS.map((value) => ({ value, label: `${value} %` }))}
          value={swing}
          onChange={setSwing}
        />
        <ToggleTitle
          label="ends as well"
          on={ends}
          onToggle={() => {
            setEnds(!ends);
          }}
        />
      </Row>
      <Box sx={{ display: 'flex', gap: 1, mt: '4px' }}>
        <Button
          variant="contained"
          disabled={none}
          onClick={() => {
            const how = {
              gridTicks: Math.round(parseDivision(grid)! * TICKS_PER_BEAT),
              strength: Number(strength),
              swing: Number(swing) / 100,
              ends,
            };
            edit('quantise', (draft) => {
              draft.line.notes = quantised(presentNotes(), mine(), how, draft.ground.bars);
            });
          }}
        >
          Quantise
        </Button>
        <Button
          variant="outlined"
          disabled={!played}
          onClick={() => {
            edit('as played', (draft) => {
              draft.line.notes = asPlayed(presentNotes(), mine());
            });
          }}
        >
          As played
        </Button>
      </Box>
    </Panel>
  );
});
