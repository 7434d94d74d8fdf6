import { findTargetSetProblems, type TargetSet } from '@abyssal/core';
import { Button } from '@mui/material';
import { useState } from 'react';
import { NameDialog } from '../../controls/NameDialog';
import { KeptPartsDialog } from '../../parts/KeptPartsDialog';
import { fetchPartAs, keepInLibrary } from '../../parts/kept-parts';
import { edit, useDocumentStore } from '../../state/document-store';
import { useSession } from '../../state/session';
import { tell, tellError } from '../../state/view-store';

/** Keeps the targets of the open sound as a set for others, and fetches such a set. */
export function TargetSetButtons() {
  const sound = useSession((session) => session.id);
  const [open, setOpen] = useState<'keep' | 'fetch' | null>(null);
  const close = () => {
    setOpen(null);
  };
  const keep = (name: string) => {
    const { targets, systems } = useDocumentStore.getState().document!;
    const set: TargetSet = { targets, systems };
    keepInLibrary('targets', name, set).then(() => {
      tell(`“${name}” is kept: its targets can be fetched for any sound.`);
    }, tellError);
  };
  const fetch = (id: string) => {
    fetchPartAs<TargetSet>(id, findTargetSetProblems).then(({ targets, systems }) => {
      edit('targets', (draft) => {
        draft.targets = targets;
        draft.systems = systems;
      });
    }, tellError);
  };
  return (
    <>
      <Button
        size="small"
        onClick={() => {
          setOpen('keep');
        }}
      >
        Keep targets
      </Button>
      <Button
        size="small"
        onClick={() => {
          setOpen('fetch');
        }}
      >
        Fetch targets
      </Button>
      {sound && (
        <Button
          size="small"
          component="a"
          href={`/soundings/${sound}`}
          target="_blank"
          title="What was measured of the sound as it is saved, on one page: print it, or take it as JSON, CSV and charts"
        >
          Page
        </Button>
      )}
      {open === 'keep' && <NameDialog title="Keep these targets" onClose={close} onName={keep} />}
      {open === 'fetch' && (
        <KeptPartsDialog
          kind="targets"
          title="Targets from the library"
          empty="No targets are kept yet: “Keep targets” keeps those of a sound."
          onClose={close}
          onChoose={(id) => {
            close();
            fetch(id);
          }}
        />
      )}
    </>
  );
}
