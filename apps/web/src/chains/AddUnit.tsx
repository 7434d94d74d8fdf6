import { UNIT_FAMILIES, UNIT_NAMES, unitKindOf, type UnitKind, type UnitPlace } from '@abyssal/core';
import { Autocomplete, Box, createFilterOptions, Popover, TextField } from '@mui/material';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { edit, presentSound } from '../state/document-store';
import { addUnit, noRoom } from '../state/unit-edits';
import { tell, useView } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';

const KINDS = UNIT_NAMES.map((kind) => {
  const { label, purpose, family } = unitKindOf(kind);
  return { kind, label, purpose, family };
}).sort((a, b) => UNIT_FAMILIES.indexOf(a.family) - UNIT_FAMILIES.indexOf(b.family));
type Option = (typeof KINDS)[number];

/** A unit is found by its name, by what it does and by its family. */
const filterOptions = createFilterOptions<Option>({
  stringify: ({ label, purpose, family }) => `${label} ${purpose} ${family}`,
});

/** Adds a unit at the end of a chain, from a list that is searched by what they do. */
export function AddUnit({ place, of }: { readonly place: UnitPlace; readonly of: string }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const close = () => {
    setAnchor(null);
  };
  const add = (kind: UnitKind) => {
    close();
    let id = '';
    edit(`add ${unitKindOf(kind).label.toLowerCase()}`, (draft) => {
      id = addUnit(draft, place, kind);
      if (place.in === 'clean path') draft.grit.cleanPath.alone = false;
    });
    useView.setState({ unitId: id, entry: 0 });
  };
  return (
    <>
      <Box
        component="button"
        type="button"
        aria-label={`Add a unit to ${of}`}
        aria-haspopup="listbox"
        onClick={(event: React.MouseEvent<HTMLElement>) => {
          const why = noRoom(presentSound(), place);
          if (why) tell(why);
          else setAnchor(event.currentTarget);
        }}
        sx={{
          display: 'inline-flex',
          alignItems: 'center',
          justifyContent: 'center',
          width: 26,
          height: 26,
          p: 0,
          color: sea.ink2,
          bgcolor: 'transparent',
          border: `1px dashed ${sea.ink2}`,
          borderRadius: '2px',
          cursor: 'pointer',
        }}
      >
        <Plus size={14} />
      </Box>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={close}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{ paper: { sx: { width: 380, p: 1, overflow: 'visible' } } }}
      >
        <Autocomplete
          open
          disablePortal
          options={KINDS}
          groupBy={({ family }) => family}
          getOptionKey={({ kind }) => kind}
          getOptionLabel={({ label }) => label}
          filterOptions={filterOptions}
          noOptionsText="No unit does that. Try another word."
          onChange={(_event, chosen) => {
            if (chosen) add(chosen.kind);
          }}
          onClose={(_event, reason) => {
            if (reason === 'escape') close();
          }}
          slotProps={{ listbox: { sx: { maxHeight: 320 } } }}
          renderOption={({ key, ...props }, { label, purpose }) => (
            <Box
              component="li"
              key={key}
              {...props}
              sx={{ display: 'block !important', py: '3px !important' }}
            >
              {label}
              <Box component="div" sx={{ fontSize: TYPE.note, color: sea.ink2, lineHeight: 1.3 }}>
                {purpose}
              </Box>
            </Box>
          )}
          renderInput={(params) => (
            <TextField {...params} autoFocus size="small" label="Unit, or what it is to do" />
          )}
        />
      </Popover>
    </>
  );
}
