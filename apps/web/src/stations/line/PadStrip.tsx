import { noteName } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { useState } from 'react';
import { keyNotes, useHeldNotes } from '../../audio/live';
import { listenToControllers, takeMidi } from '../../midi/take-midi';
import { useSound } from '../../state/document-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { NUMERALS } from '../../theme/theme';

const NOTE_ON = 0x90;
const NOTE_OFF = 0x80;
const VELOCITY = 100;
const CAPS: Readonly<Record<string, string>> = { Comma: ',', Period: '.', Slash: '/', Semicolon: ';' };
const capOf = (code: string) => CAPS[code] ?? code.replace('Key', '');

/**
 * The scale as a strip under the grid, deep to high: a simulated controller that sends what a real one would.
 * What is held, by whatever, is lit.
 */
export function PadStrip() {
  const ground = useSound((sound) => sound.ground);
  const held = useHeldNotes((state) => state.notes);
  const [controllers, setControllers] = useState<string[] | null>(null);
  const codes = new Map<number, string[]>();
  for (const [code, note] of keyNotes(ground))
    if (note !== undefined) codes.set(note, [...(codes.get(note) ?? []), code]);
  const pads = [...codes].sort(([a], [b]) => a - b);
  const send = (status: number, note: number, velocity: number) => {
    takeMidi(Uint8Array.of(status, note, velocity));
  };
  return (
    <Box sx={{ mt: '6px' }}>
      <Box
        role="group"
        aria-label="Simulated controller"
        sx={{ display: 'flex', flexWrap: 'wrap', gap: '2px' }}
      >
        {pads.map(([note, own]) => (
          <Box
            key={note}
            component="button"
            type="button"
            aria-label={`Pad ${noteName(note)}, key ${own.map(capOf).join(' or ')}`}
            data-held={held.has(note) || undefined}
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              send(NOTE_ON, note, VELOCITY);
            }}
            onPointerUp={() => {
              send(NOTE_OFF, note, 0);
            }}
            onPointerCancel={() => {
              send(NOTE_OFF, note, 0);
            }}
            onKeyDown={(event) => {
              if (event.key === 'Enter' && !event.repeat) send(NOTE_ON, note, VELOCITY);
            }}
            onKeyUp={(event) => {
              if (event.key === 'Enter') send(NOTE_OFF, note, 0);
            }}
            sx={{
              flex: '1 0 28px',
              minHeight: 38,
              font: 'inherit',
              fontSize: TYPE.mark,
              color: held.has(note) ? sea.ink : sea.ink2,
              bgcolor: held.has(note) ? sea.tint3 : sea.tint1,
              border: 0,
              borderBottom: `3px solid ${held.has(note) ? sea.note : sea.hair}`,
              p: '2px 0',
              cursor: 'pointer',
              touchAction: 'none',
              userSelect: 'none',
            }}
          >
            <Box sx={{ fontFamily: NUMERALS, fontStyle: 'italic', fontSize: TYPE.control, color: sea.ink }}>
              {noteName(note)}
            </Box>
            {own.map(capOf).join(' ')}
          </Box>
        ))}
      </Box>
      <Box
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: 1,
          fontSize: TYPE.note,
          color: sea.ink2,
          mt: '5px',
        }}
      >
        <Button
          variant="outlined"
          onClick={() => {
            void listenToControllers().then(setControllers);
          }}
        >
          Listen to MIDI
        </Button>
        {controllers === null
          ? 'The pads, and the keys written on them, play the scale; hold Shift for an accent.'
          : controllers.length === 0
            ? 'No controller connected yet. Plug one in and play.'
            : `Listening to ${controllers.join(', ')}.`}
      </Box>
    </Box>
  );
}
