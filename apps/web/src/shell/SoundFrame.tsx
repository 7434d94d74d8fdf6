import { Box, CircularProgress } from '@mui/material';
import { useEffect, useState } from 'react';
import { Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { audio } from '../audio/audio-host';
import { keepHearingThrough } from '../sounding/hear-through';
import { keepSoundings } from '../sounding/kept-sounding';
import { keepCompared } from '../sounding/other-store';
import { keepSounding } from '../sounding/sounding-store';
import { useDocumentStore } from '../state/document-store';
import { STATIONS } from '../stations';
import { leaveSound, openSound, useSession } from '../state/session';
import { tellError, useView } from '../state/view-store';
import { sea } from '../theme/sea';
import { ApiProblem } from '../api/problem';
import { restoreSound } from '../api/sounds';
import { ConflictDialog } from './ConflictDialog';
import { DeletedDialog } from './DeletedDialog';
import { SaveBar } from './SaveBar';
import { DepthChart } from '../depth/DepthChart';
import { Figures } from './Figures';
import { Foot, FootListen, FootPlay } from './Foot';
import { Head } from './Head';
import { KeysSheet } from './KeysSheet';
import { PageProblem } from './PageProblem';
import { useKeys } from './use-keys';

/** A sound with its frame: head, depth chart, station, figures, foot. */
export function SoundFrame() {
  const { id = '' } = useParams();
  const navigate = useNavigate();
  const [, , , station] = useLocation().pathname.split('/');
  const [failed, setFailed] = useState<Error | null>(null);
  const [attempt, setAttempt] = useState(0);
  const here = useSession((state) => state.id === id);
  const open = useDocumentStore((state) => state.document !== null);
  const toCopy = (copy: string) => {
    void navigate(`/sounds/${copy}`);
  };
  useKeys();
  useEffect(() => {
    setFailed(null);
    openSound(id)
      .then(() => audio.prepare())
      .catch((error: unknown) => {
        setFailed(error instanceof Error ? error : new Error(String(error)));
      });
    const ends = [keepSounding(), keepHearingThrough(), keepCompared(), keepSoundings()];
    return () => {
      for (const end of ends) end();
      if (useView.getState().playing) audio.stop();
      // What is looked at belongs to the sound: the next one opens on its first tone.
      useView.setState({
        layerId: null,
        moverId: null,
        tone: 0,
        filter: 0,
        layerPanel: 'loudness',
        solo: [],
        hereTick: 0,
      });
      leaveSound();
    };
  }, [id, attempt]);

  if (failed) {
    const retry = () => {
      setAttempt(attempt + 1);
    };
    const wasDeleted = failed instanceof ApiProblem && failed.kind === 'sound-deleted';
    const restore = () => {
      restoreSound(id).then(retry).catch(tellError);
    };
    return (
      <PageProblem
        sentence={failed.message}
        onRetry={wasDeleted ? restore : retry}
        retry={wasDeleted ? 'Restore the sound' : 'Try again'}
      />
    );
  }
  if (!here || !open)
    return (
      <Box sx={{ height: '100%', display: 'grid', placeContent: 'center' }}>
        <CircularProgress aria-label="Opening the sound" />
      </Box>
    );
  return (
    <Box
      sx={{
        height: '100%',
        minHeight: 400,
        display: 'grid',
        gridTemplateColumns: '236px minmax(0, 1fr) 240px',
        gridTemplateRows: '52px minmax(0, 1fr) 72px',
        bgcolor: sea.paper,
        '@media (max-width: 1023px)': { gridTemplateColumns: '172px minmax(0, 1fr) 204px' },
      }}
    >
      <Box component="header" sx={{ display: 'contents' }}>
        <Head />
      </Box>
      <Box sx={{ borderRight: `1px solid ${sea.rule}`, bgcolor: sea.sheet, minHeight: 0 }}>
        <DepthChart Part={STATIONS.find(({ path }) => path === station)?.Depth} />
      </Box>
      <Box component="main" sx={{ p: '12px 18px', overflow: 'auto', minHeight: 0 }}>
        <SaveBar />
        <Outlet />
      </Box>
      <Box sx={{ borderLeft: `1px solid ${sea.rule}`, bgcolor: sea.sheet, minHeight: 0, overflow: 'auto' }}>
        <Figures />
      </Box>
      <Box component="footer" aria-label="Playing and hearing" sx={{ display: 'contents' }}>
        <FootPlay />
        <Foot />
        <FootListen />
      </Box>
      <KeysSheet />
      <ConflictDialog onCopy={toCopy} />
      <DeletedDialog
        onCopy={toCopy}
        onLeave={() => {
          void navigate('/');
        }}
      />
    </Box>
  );
}
