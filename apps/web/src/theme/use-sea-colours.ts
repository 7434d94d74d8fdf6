import { useColorScheme } from '@mui/material/styles';
import { NIGHT_WATCH, PAPER, type SeaColours } from './sea';

/** The colours of the present scheme as literal values, for canvases. */
export function useSeaColours(): SeaColours {
  const { mode, systemMode } = useColorScheme();
  return (mode === 'system' ? systemMode : mode) === 'dark' ? NIGHT_WATCH : PAPER;
}
