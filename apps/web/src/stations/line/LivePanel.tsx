import { noteName } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { useState } from 'react';
import { keyNotes, listenToControllers, takeMidi } from '../../audio/live';
import { Panel } from '../../controls/Panel';
import { useSound } from '../../state/document-store';
import { sea } from '../../theme/sea';
import { NUMERALS } from '../../theme/theme';

const NOTE_ON = 0x90;
const NOTE_OFF = 0x80;
const VELOCITY = 100;
const CAPS: Readonly<Record<string, string>> = { Comma: ',', Period: '.', Slash: '/', Semicolon: ';' };
const capOf = (code: string) => CAPS[code] ?? code.replace('Key', '');

/** Playing live: the two lower rows of the keyboard, real controllers, and a simulated one that sends the same messages. */
export function LivePanel() {
  const ground = useSound((sound) => sound.ground);
  const [controllers, setControllers] = useState<string[] | null>(null);
  const pads = [...keyNotes(ground)].filter(([, note]) => note !== undefined);
  const send = (status: number, note: number, velocity: number) => { takeMidi(Uint8Array.of(status, note, velocity)); };
  return (
    <Panel title="Playing live" aside={<Button variant="outlined" onClick={() => { void listenToControllers().then(setControllers); }}>Listen to MIDI</Button>}>
      <Box role="group" aria-label="Simulated controller" sx={{ display: 'grid', gridTemplateColumns: 'repeat(10, 1fr)', gap: '3px', direction: 'ltr' }}>
        {[...pads.slice(10), ...pads.slice(0, 10)].map(([code, note]) => (
          <Box
            key={code} component="button" type="button" aria-label={`Pad ${noteName(note)}, key ${capOf(code)}`}
            onPointerDown={(event) => { event.currentTarget.setPointerCapture(event.pointerId); send(NOTE_ON, note, VELOCITY); }}
            onPointerUp={() => { send(NOTE_OFF, note, 0); }} onPointerCancel={() => { send(NOTE_OFF, note, 0); }}
            onKeyDown={(event) => { if (event.key === 'Enter' && !event.repeat) send(NOTE_ON, note, VELOCITY); }} onKeyUp={(event) => { if (event.key === 'Enter') send(NOTE_OFF, note, 0); }}
            sx={{ font: 'inherit', fontSize: 12, color: sea.ink2, bgcolor: sea.tint1, border: `1px solid ${sea.hair}`, p: '2px 0', cursor: 'pointer', touchAction: 'none', userSelect: 'none', '&:active': { bgcolor: sea.tint3, color: sea.ink } }}
          >
            <Box sx={{ fontFamily: NUMERALS, fontStyle: 'italic', fontSize: 13, color: sea.ink }}>{noteName(note)}</Box>{capOf(code)}
          </Box>
        ))}
      </Box>
      <Box sx={{ fontSize: 12.5, color: sea.ink2, mt: '5px' }}>
        {controllers === null ? 'A simulated controller: pads and keys play the scale; Shift accents.' : controllers.length === 0 ? 'No controller is connected yet; one that is plugged in is heard at once.' : `Listening to ${controllers.join(', ')}.`}
      </Box>
    </Panel>
  );
}
