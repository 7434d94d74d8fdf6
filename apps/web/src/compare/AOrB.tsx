import { ToggleButton } from '@mui/material';
import { hearOther, useOther } from '../sounding/other-store';

/** Which of the two is heard, once there are two. */
export function AOrB() {
  const { compared, heard, other } = useOther();
  if (!other) return null;
  return (
    <ToggleButton
      value="B"
      size="small"
      selected={heard === 'B'}
      disabled={!compared}
      aria-label={heard === 'B' ? `Hear A, the sound` : `Hear B, ${other.name}`}
      title="E goes from one to the other"
      sx={{ minWidth: 28, px: '4px', ml: 'auto' }}
      onChange={() => {
        hearOther(heard === 'A' ? 'B' : 'A');
      }}
    >
      {heard}
    </ToggleButton>
  );
}
