import type { Click } from '@abyssal/core';
import { memo, useState } from 'react';
import { Choice } from '../../controls/Choice';
import { Panel } from '../../controls/Panel';
import { useSounding } from '../../sounding/sounding-store';
import { AdvicePanel } from './AdvicePanel';
import { DuckPanel } from './DuckPanel';
import type { Met } from './met';
import { NotesTable } from './NotesTable';

const LABELS = { advice: 'Advice for the lock', notes: 'Note by note', ducking: 'Ducking' } as const;
const OPTIONS = [
  { value: 'advice', label: 'advice' },
  { value: 'notes', label: 'note by note' },
  { value: 'ducking', label: 'ducking' },
] as const;
const NO_CLICKS: readonly Click[] = [];

interface FurtherProps {
  readonly met: readonly Met[];
  readonly chosen: Met | null;
  readonly onChoose: (index: number, place: number) => void;
  readonly drawn: string | null;
  readonly onDraw: (id: string | null) => void;
}

/**
 * One of advice, notes and ducking. Rendered again only when something is measured or chosen: the rose may be
 * dragged meanwhile.
 */
export const Further = memo(function Further({ met, chosen, onChoose, drawn, onDraw }: FurtherProps) {
  const [below, setBelow] = useState<keyof typeof LABELS>('advice');
  const hardHoldMs = useSounding((state) => state.shown?.hardHoldMs ?? 0);
  const clicks = useSounding((state) => state.shown?.clicks ?? NO_CLICKS);
  return (
    <Panel
      label={LABELS[below]}
      title={<Choice label="Below" options={OPTIONS} value={below} onChange={setBelow} />}
    >
      {below === 'advice' && <AdvicePanel drawn={drawn} onDraw={onDraw} />}
      {below === 'notes' && <NotesTable met={met} chosen={chosen} onChoose={onChoose} />}
      {below === 'ducking' && <DuckPanel hardHoldMs={hardHoldMs} clicks={clicks} />}
    </Panel>
  );
});
