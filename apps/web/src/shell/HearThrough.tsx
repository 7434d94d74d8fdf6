import { systemsOf } from '@abyssal/core';
import { Button, Divider, ListItemText, Menu, MenuItem } from '@mui/material';
import { Check } from 'lucide-react';
import { useState } from 'react';
import { useSound } from '../state/document-store';
import { useView } from '../state/view-store';
import { sea } from '../theme/sea';

/** One entry of the menu: chosen or not. */
function entry(
  key: string,
  label: string,
  chosen: boolean,
  role: string,
  choose: () => void,
  second?: string,
) {
  return (
    <MenuItem key={key} dense role={role} aria-checked={chosen} selected={chosen} onClick={choose}>
      <ListItemText primary={label} secondary={second} />
      {chosen && <Check size={15} aria-hidden />}
    </MenuItem>
  );
}

/** Which playback system the sound is heard through, at which level, and whether in the noise of its room. */
export function HearThrough() {
  const { through, throughWays: ways } = useView();
  const systems = systemsOf({ systems: useSound((sound) => sound.systems) });
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const name = systems.find(({ id }) => id === through)?.name ?? null;
  const choose = (id: string | null) => {
    useView.setState({ through: id });
    setAnchor(null);
  };
  return (
    <>
      <Button
        aria-haspopup="menu"
        aria-expanded={anchor !== null}
        aria-label={`Hear through: ${name ?? 'nothing, the sound by itself'}`}
        title="Hear the sound as a playback system plays it"
        sx={{
          minWidth: 0,
          px: '4px',
          overflow: 'hidden',
          textOverflow: 'ellipsis',
          display: 'block',
          whiteSpace: 'nowrap',
          ...(name ? { bgcolor: sea.tint2 } : {}),
        }}
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
      >
        {name ?? 'Hear through'}
      </Button>
      <Menu
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => {
          setAnchor(null);
        }}
        anchorOrigin={{ vertical: 'top', horizontal: 'right' }}
        transformOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        slotProps={{ list: { 'aria-label': 'Hear through' } }}
      >
        {entry('none', 'The sound by itself', name === null, 'menuitemradio', () => {
          choose(null);
        })}
        {systems.map((system) =>
          entry(system.id, system.name, system.id === through, 'menuitemradio', () => {
            choose(system.id);
          }),
        )}
        <Divider />
        {entry(
          'level',
          'At its true level',
          ways.level === 'true',
          'menuitemcheckbox',
          () => {
            useView.setState({
              throughWays: { ...ways, level: ways.level === 'true' ? 'matched' : 'true' },
            });
          },
          ways.level === 'true'
            ? 'systems stand to each other as they play'
            : 'now as loud as the sound by itself',
        )}
        {entry('noise', 'With the noise of its room', ways.noise, 'menuitemcheckbox', () => {
          useView.setState({ throughWays: { ...ways, noise: !ways.noise } });
        })}
      </Menu>
    </>
  );
}
