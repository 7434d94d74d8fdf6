import { linkTargets } from '@abyssal/core';
import { Autocomplete, Popover, TextField } from '@mui/material';
import { useMemo } from 'react';
import { useDocument } from '../state/document-store';

interface TargetChooserProps {
  readonly taken: readonly string[];
  /** What stands first in the list. */
  readonly first?: readonly string[];
  readonly anchor: HTMLElement | null;
  readonly label: string;
  readonly onChoose: (target: string) => void;
  readonly onClose: () => void;
}

/** Chooses a parameter by its name: what has no effect now, and what `taken` names, is left out. */
export function TargetChooser(props: TargetChooserProps) {
  const { anchor, onClose } = props;
  return (
    <Popover
      open={anchor !== null}
      anchorEl={anchor}
      onClose={onClose}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
      transformOrigin={{ vertical: 'top', horizontal: 'right' }}
      slotProps={{ paper: { sx: { width: 340, p: 1, overflow: 'visible' } } }}
    >
      <Targets {...props} />
    </Popover>
  );
}

function Targets({ taken, first = [], label, onChoose, onClose }: TargetChooserProps) {
  const document = useDocument();
  const options = useMemo(() => {
    const free = linkTargets(document).filter(({ target }) => !taken.includes(target));
    return [
      ...free.filter(({ target }) => first.includes(target)),
      ...free.filter(({ target }) => !first.includes(target)),
    ];
  }, [document, taken, first]);
  return (
    <Autocomplete
      open
      disablePortal
      options={options}
      groupBy={({ group }) => group}
      getOptionKey={({ target }) => target}
      getOptionLabel={(option) => option.label}
      noOptionsText="No parameter of this name can be moved now."
      onChange={(_event, chosen) => {
        if (chosen) onChoose(chosen.target);
      }}
      onClose={(_event, reason) => {
        if (reason === 'escape') onClose();
      }}
      slotProps={{ listbox: { sx: { maxHeight: 300 } } }}
      renderInput={(params) => <TextField {...params} autoFocus size="small" label={label} />}
    />
  );
}
