import {
  barBeat,
  BEATS_PER_BAR,
  cleanBacking,
  dropDangling,
  findBackingProblems,
  MOST_BACKING,
  plain,
  TICKS_PER_BEAT,
  type BackingPart,
} from '@abyssal/core';
import { Box, Button, IconButton, ToggleButton } from '@mui/material';
import { Archive, RefreshCw, Trash2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { FileButton, WAV_FILES } from '../../controls/FileButton';
import { ListChoice } from '../../controls/ListChoice';
import { ParameterRow } from '../../controls/ParameterRow';
import { KeptPartsDialog } from '../../parts/KeptPartsDialog';
import { fetchPartAs, keepInLibrary } from '../../parts/kept-parts';
import { useSounding } from '../../sounding/sounding-store';
import { edit, useDocumentStore, useSound } from '../../state/document-store';
import { freeId } from '../../state/free-id';
import { recording, takeWav } from '../../state/recordings';
import { tell, tellError } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { AddSoundDialog } from './AddSoundDialog';
import { useRenderSound } from './use-render-sound';

/**
 * The tempo at which a recording is a whole number of bars, nearest to the sound's own; null until it is
 * read.
 */
function useTempo(asset: string, tempoBpm: number): { bars: number; bpm: number } | null {
  const [seconds, setSeconds] = useState<number | null>(null);
  useEffect(() => {
    let current = true;
    recording(asset).then(({ durationS }) => {
      if (current) setSeconds(durationS);
    }, tellError);
    return () => {
      current = false;
    };
  }, [asset]);
  if (seconds === null) return null;
  const bars = Math.max(1, Math.round((seconds * tempoBpm) / 60 / BEATS_PER_BAR));
  return { bars, bpm: (60 * BEATS_PER_BAR * bars) / seconds };
}

/** Adds a part under a free id, as one undo step. */
function add(part: BackingPart): void {
  edit(`add ${part.name}`, (draft) => {
    draft.backing.push({
      ...part,
      id: freeId(draft.backing, (n) => `part-${n}`),
      startTick: Math.min(part.startTick, TICKS_PER_BEAT * BEATS_PER_BAR * draft.ground.bars - 1),
    });
  });
}

/**
 * Renders the sound that a part is of again, as it now is and at the tempo of the open one; pressed again it
 * leaves off.
 */
function RenderAgain({ part }: { readonly part: BackingPart }) {
  const { done, start, cancel } = useRenderSound();
  const again = async () => {
    const asset = await start(part.sound, useDocumentStore.getState().document!.ground);
    if (asset === part.asset)
      tell(`${part.name} is up to date: neither its sound nor the tempo has changed.`);
    else if (asset !== null)
      edit(`${part.name} · rendered again`, (draft) => {
        for (const each of draft.backing) if (each.id === part.id) each.asset = asset;
      });
  };
  return done === null ? (
    <IconButton
      size="small"
      aria-label={`Render ${part.name} again`}
      title="Render its sound again, as it is now and at this tempo"
      onClick={() => {
        void again();
      }}
    >
      <RefreshCw size={15} />
    </IconButton>
  ) : (
    <Button
      size="small"
      sx={{ minWidth: 0, p: '0 4px' }}
      aria-label={`Stop rendering ${part.name}`}
      onClick={cancel}
    >
      {Math.round(100 * done)} %
    </Button>
  );
}

function Part({ index }: { readonly index: number }) {
  const part = useSound((sound) => sound.backing[index]);
  const tempoBpm = useSound((sound) => sound.ground.tempoBpm);
  const bars = useSound((sound) => sound.ground.bars);
  const tempo = useTempo(part.asset, tempoBpm);
  const off = part.sound !== '' && tempo !== null && Math.abs(tempo.bpm - tempoBpm) >= 0.05;
  const beats = Array.from({ length: bars * BEATS_PER_BAR }, (_, beat) => ({
    value: String(beat * TICKS_PER_BEAT),
    label: barBeat(beat * TICKS_PER_BEAT),
  }));
  const change = (what: string, recipe: (draft: BackingPart) => void) => {
    edit(`${part.name} · ${what}`, (draft) => {
      recipe(draft.backing[index]);
    });
  };
  return (
    <Box sx={{ borderTop: `1px solid ${sea.hair}`, pt: '4px', mb: '4px' }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: '6px' }}>
        <ToggleButton
          value="mute"
          size="small"
          selected={!part.on}
          aria-label={`Mute ${part.name}`}
          onChange={() => {
            change(part.on ? 'mute' : 'unmute', (draft) => {
              draft.on = !part.on;
            });
          }}
        >
          mute
        </ToggleButton>
        <Box
          sx={{
            fontWeight: 500,
            fontSize: TYPE.body,
            overflow: 'hidden',
            textOverflow: 'ellipsis',
            whiteSpace: 'nowrap',
            flex: 1,
          }}
          title={part.fileName}
        >
          {part.name}
        </Box>
        {part.sound !== '' && <RenderAgain key={part.sound} part={part} />}
        <IconButton
          size="small"
          aria-label={`Keep ${part.name} in the library`}
          onClick={() => {
            keepInLibrary('backing', part.name || 'Part', part).then(() => {
              tell(`${part.name} is kept in the library.`);
            }, tellError);
          }}
        >
          <Archive size={15} />
        </IconButton>
        <IconButton
          size="small"
          aria-label={`Remove ${part.name}`}
          onClick={() => {
            edit(`remove ${part.name}`, (draft) => {
              if (draft.duck.from === part.id) draft.duck.from = 'kick';
              dropDangling(draft);
              draft.backing.splice(index, 1);
            });
          }}
        >
          <Trash2 size={15} />
        </IconButton>
      </Box>
      <Box
        sx={{ display: 'flex', alignItems: 'center', gap: '6px', fontSize: TYPE.control, color: sea.ink2 }}
      >
        <Box sx={{ width: 52 }}>Starts at</Box>
        <ListChoice
          label={`${part.name} starts at`}
          value={String(part.startTick - (part.startTick % TICKS_PER_BEAT))}
          options={beats}
          onChange={(tick) => {
            change('start', (draft) => {
              draft.startTick = Number(tick);
            });
          }}
        />
        <Box sx={{ flex: 1 }} />
        <Box
          sx={{ color: off ? sea.watch : undefined }}
          title={off ? `This sound is at ${tempoBpm} bpm` : undefined}
        >
          {off ? '◐ ' : ''}
          {tempo ? `${tempo.bars} ${tempo.bars === 1 ? 'bar' : 'bars'} at ${tempo.bpm.toFixed(1)} bpm` : ''}
        </Box>
      </Box>
      <ParameterRow
        path={['backing', index, 'gainDb']}
        of={part.name}
        label="Gain"
        labelWidth={52}
        linkRoom={false}
        disabled={!part.on}
      />
    </Box>
  );
}

/** Recordings that the bass must leave room for. */
export function BackingPanel() {
  const count = useSound((sound) => sound.backing.length);
  const measured = useSounding((state) => state.shown?.backing ?? null);
  const [busy, setBusy] = useState(false);
  const [fetching, setFetching] = useState(false);
  const [adding, setAdding] = useState(false);
  const tempoBpm = useSound((sound) => sound.ground.tempoBpm);
  const bars = useSound((sound) => sound.ground.bars);
  const take = async (file: File) => {
    setBusy(true);
    try {
      const asset = await takeWav(file);
      if ((useDocumentStore.getState().document?.backing.length ?? MOST_BACKING) < MOST_BACKING)
        add(cleanBacking('part', asset, file.name));
    } catch (error) {
      tellError(error);
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      {count === 0 && (
        <Box sx={{ fontSize: TYPE.control, color: sea.ink2, mb: '6px' }}>
          No backing parts yet. Add a WAV of drums or chords, or another sound: you hear it with this one, see
          it on the depth chart, and read how much of the bass it masks.
        </Box>
      )}
      <Box sx={{ maxHeight: 190, overflow: 'auto' }}>
        {Array.from({ length: count }, (_, index) => (
          <Part key={index} index={index} />
        ))}
      </Box>
      {measured && (
        <Box sx={{ fontSize: TYPE.control, color: sea.ink2, mb: '5px' }}>
          {measured.loudness.value === null
            ? 'They are silent.'
            : `Together ${plain(measured.loudness.value)} LUFS; they mask ${measured.masked === null ? 'nothing: the bass is silent' : `${Math.round(100 * measured.masked)} % of the bass’s energy`}.`}
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: '6px' }}>
        <FileButton
          size="small"
          label="Backing WAV"
          accept={WAV_FILES}
          disabled={busy || count >= MOST_BACKING}
          onFiles={([file]) => {
            void take(file);
          }}
        >
          {busy ? 'reading…' : 'Add a WAV'}
        </FileButton>
        <Button
          size="small"
          variant="outlined"
          disabled={count >= MOST_BACKING}
          onClick={() => {
            setAdding(true);
          }}
        >
          Add a sound…
        </Button>
        <Button
          size="small"
          variant="outlined"
          disabled={count >= MOST_BACKING}
          onClick={() => {
            setFetching(true);
          }}
        >
          Load…
        </Button>
      </Box>
      {adding && (
        <AddSoundDialog
          under={{ tempoBpm, bars }}
          onClose={() => {
            setAdding(false);
          }}
          onAdd={({ id, name }, asset) => {
            setAdding(false);
            add({ ...cleanBacking('part', asset, name || 'Unnamed'), sound: id });
          }}
        />
      )}
      {fetching && (
        <KeptPartsDialog
          kind="backing"
          title="Kept backing parts"
          empty="No backing parts kept yet. Press the box beside a part’s name to keep it."
          onClose={() => {
            setFetching(false);
          }}
          onChoose={(id) => {
            setFetching(false);
            fetchPartAs<BackingPart>(id, findBackingProblems).then(add, tellError);
          }}
        />
      )}
    </>
  );
}
