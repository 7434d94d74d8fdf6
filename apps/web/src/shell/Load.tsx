import { Box, Button, ListItemText, Menu, MenuItem, Tooltip } from '@mui/material';
import { Snowflake } from 'lucide-react';
import { useEffect, useState } from 'react';
import { audio } from '../audio/audio-host';
import { freeze, thaw } from '../sounding/freeze';
import { useFreezes } from '../audio/frozen-layers';
import { DROPOUTS, DROPPED_MS, LOAD } from '../audio/protocol';
import { useSound } from '../state/document-store';
import { useView } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';

/**
 * From this share of the audio thread's time on its load is shown; from the second on the sound may break up,
 * and freezing is offered.
 */
const SHOWN_FROM = 0.5;
const HEAVY_FROM = 0.75;

interface Dropouts {
  readonly count: number;
  readonly silentMs: number;
}

const sharedDropouts = (): Dropouts => ({
  count: audio.shared.state[DROPOUTS],
  silentMs: audio.shared.state[DROPPED_MS],
});

/** How often the sound has broken up since it was last played, and how long it was silent. */
function useDropouts(playing: boolean): Dropouts {
  const [found, setFound] = useState<Dropouts>({ count: 0, silentMs: 0 });
  useEffect(() => {
    if (!playing) return undefined;
    const before = sharedDropouts();
    setFound({ count: 0, silentMs: 0 });
    const timer = setInterval(() => {
      const now = sharedDropouts();
      setFound((last) =>
        last.count === now.count - before.count
          ? last
          : { count: now.count - before.count, silentMs: now.silentMs - before.silentMs },
      );
    }, 400);
    return () => {
      clearInterval(timer);
    };
  }, [playing]);
  return found;
}

const dropoutsInWords = ({ count, silentMs }: Dropouts): string =>
  `The sound broke up ${count === 1 ? 'once' : `${count} times`} since it was played, and was silent for ${(silentMs / 1000).toFixed(1)} s in all: it asks more than this machine has. Freeze a layer, or play fewer voices.`;

/**
 * The load of the audio thread where it matters, and with it the way out: a layer that is frozen plays back
 * its own render.
 */
export function Load() {
  const playing = useView((state) => state.playing);
  const layers = useSound((sound) => sound.layers);
  const { frozen, making } = useFreezes();
  const [load, setLoad] = useState(0);
  const dropouts = useDropouts(playing);
  const [at, setAt] = useState<HTMLElement | null>(null);
  useEffect(() => {
    if (!playing) {
      setLoad(0);
      return undefined;
    }
    const timer = setInterval(() => {
      setLoad(audio.shared.state[LOAD]);
    }, 400);
    return () => {
      clearInterval(timer);
    };
  }, [playing]);
  const heavy = load >= HEAVY_FROM;
  const freezeLabel = frozen.size > 0 ? `${frozen.size} frozen` : 'Freeze';
  const offers = heavy || dropouts.count > 0 || frozen.size > 0 || making.size > 0 || at !== null;
  if (load < SHOWN_FROM && !offers) return null;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.75, whiteSpace: 'nowrap' }}>
      {load >= SHOWN_FROM && dropouts.count === 0 && (
        <Box
          component="span"
          role="status"
          aria-label="Load of the audio thread"
          sx={{ color: heavy ? sea.short : sea.ink2, fontVariantNumeric: 'tabular-nums' }}
        >
          {heavy ? '✕' : '◐'} {Math.round(100 * load)} %
        </Box>
      )}
      {dropouts.count > 0 && (
        <Tooltip title={dropoutsInWords(dropouts)}>
          <Box
            component="span"
            role="status"
            aria-label={dropoutsInWords(dropouts)}
            sx={{ color: sea.short }}
          >
            ✕ broke up {dropouts.count}×
          </Box>
        </Tooltip>
      )}
      {offers && (
        <Button
          size="small"
          startIcon={<Snowflake size={13} />}
          aria-label={freezeLabel}
          aria-haspopup="menu"
          onClick={(event) => {
            setAt(event.currentTarget);
          }}
          sx={{
            minHeight: 24,
            minWidth: 24,
            p: '0 6px',
            fontSize: TYPE.control,
            // Beside the words the sign alone has room.
            ...(dropouts.count > 0 && { p: 0, '& .MuiButton-startIcon': { m: 0 } }),
          }}
          title="A frozen layer is rendered once and played back; an edit thaws it."
        >
          {dropouts.count === 0 && freezeLabel}
        </Button>
      )}
      <Menu
        open={at !== null}
        anchorEl={at}
        onClose={() => {
          setAt(null);
        }}
        anchorOrigin={{ vertical: 'top', horizontal: 'left' }}
        transformOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        {layers.map(({ id, name }) => {
          const done = making.get(id);
          const text =
            done !== undefined
              ? `Freezing ${name}: ${Math.round(100 * done)} %`
              : frozen.has(id)
                ? `Thaw ${name}`
                : `Freeze ${name}`;
          return (
            <MenuItem
              key={id}
              disabled={done !== undefined}
              onClick={() => {
                if (frozen.has(id)) thaw(id);
                else void freeze(id);
              }}
            >
              <ListItemText primary={text} slotProps={{ primary: { sx: { fontSize: TYPE.body } } }} />
            </MenuItem>
          );
        })}
      </Menu>
    </Box>
  );
}
