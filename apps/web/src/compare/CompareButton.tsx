import { plain } from '@abyssal/core';
import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  LinearProgress,
  Popover,
} from '@mui/material';
import { useState } from 'react';
import { readSound } from '../api/sounds';
import { FileButton, WAV_FILES } from '../controls/FileButton';
import { setOther, useOther } from '../sounding/other-store';
import { decode } from '../state/recordings';
import { useSession } from '../state/session';
import { tellError } from '../state/view-store';
import { OtherSounds } from '../parts/OtherSounds';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { BlindTest } from './BlindTest';
import { KeptStates } from './KeptStates';

/** By how much the sound is lowered before it is told, dB. */
const TOLD_DB = 0.1;

/** What the sound is set against, chosen here: a kept state, another sound, a WAV; and the blind test. */
export function CompareButton() {
  const sound = useSession((session) => session.id);
  const { other, done, compared, ownDb } = useOther();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [open, setOpen] = useState<'sounds' | 'test' | null>(null);
  const takeWav = async (file: File) => {
    const recording = await decode(await file.arrayBuffer());
    setOther({ kind: 'wav', id: file.name, name: file.name, recording });
  };
  return (
    <>
      <Button
        variant="outlined"
        aria-haspopup="dialog"
        aria-expanded={anchor !== null}
        aria-label={other ? `A⇄B against ${other.name}` : 'A⇄B'}
        title="Set the sound against a kept state, another sound or a WAV"
        sx={{ minWidth: 0, px: '5px', flex: 'none', ...(other ? { bgcolor: sea.tint2 } : {}) }}
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
      >
        A⇄B
      </Button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => {
          setAnchor(null);
        }}
        anchorOrigin={{ vertical: 'top', horizontal: 'right' }}
        transformOrigin={{ vertical: 'bottom', horizontal: 'right' }}
      >
        <Box
          role="dialog"
          aria-label="Set against"
          sx={{ width: 320, p: '10px 14px', fontSize: TYPE.control }}
        >
          <Box sx={{ mb: '6px' }}>
            {other ? (
              <>
                A is the sound, B is <b>{other.name}</b>.
                {Math.abs(ownDb) >= TOLD_DB
                  ? ` The sound is lowered by ${plain(-ownDb)} dB to be as loud.`
                  : ''}
              </>
            ) : (
              'A is the sound as it is now. Choose what B is: both are heard as loud as each other.'
            )}
          </Box>
          {done !== null && (
            <LinearProgress
              variant="determinate"
              value={100 * done}
              aria-label="Rendering B"
              sx={{ mb: '6px' }}
            />
          )}
          {other && (
            <Box sx={{ display: 'flex', gap: '6px', mb: '8px' }}>
              <Button
                size="small"
                variant="contained"
                disabled={!compared}
                onClick={() => {
                  setAnchor(null);
                  setOpen('test');
                }}
              >
                Blind test
              </Button>
              <Button
                size="small"
                onClick={() => {
                  setOther(null);
                }}
              >
                No B
              </Button>
            </Box>
          )}
          {sound && <KeptStates sound={sound} />}
          <Box sx={{ display: 'flex', gap: '6px', mt: '8px' }}>
            <Button
              size="small"
              variant="outlined"
              onClick={() => {
                setAnchor(null);
                setOpen('sounds');
              }}
            >
              Another sound
            </Button>
            <FileButton
              size="small"
              label="WAV to set against"
              accept={WAV_FILES}
              onFiles={([file]) => {
                takeWav(file).catch(tellError);
              }}
            >
              A WAV
            </FileButton>
          </Box>
        </Box>
      </Popover>
      {open === 'sounds' && (
        <Dialog
          open
          onClose={() => {
            setOpen(null);
          }}
          maxWidth="xs"
          fullWidth
          aria-labelledby="against-title"
        >
          <DialogTitle id="against-title">Set against another sound</DialogTitle>
          <DialogContent dividers sx={{ height: 330 }}>
            <OtherSounds
              onChoose={({ id }) => {
                setOpen(null);
                readSound(id).then(({ document }) => {
                  setOther({ kind: 'sound', id, name: document.name || 'Unnamed', document });
                }, tellError);
              }}
            />
          </DialogContent>
          <DialogActions>
            <Button
              onClick={() => {
                setOpen(null);
              }}
            >
              Close
            </Button>
          </DialogActions>
        </Dialog>
      )}
      {open === 'test' && other && (
        <BlindTest
          name={other.name}
          onClose={() => {
            setOpen(null);
          }}
        />
      )}
    </>
  );
}
