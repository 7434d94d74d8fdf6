import { noteName } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { useState } from 'react';
import { useHeldNotes } from '../audio/live';
import { Track } from '../controls/Track';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { takeMidi } from './take-midi';

const NOTE_ON = 0x90;
const NOTE_OFF = 0x80;
const CONTROL = 0xb0;
const BEND = 0xe0;
/** The channel's controls of the faders, and of the mod wheel. */
const FADERS = Array.from({ length: 8 }, (_, i) => 20 + i);
const MOD = 1;
/** Notes of the pads, one above the other, and of the keys: two octaves from C1. */
const PADS = Array.from({ length: 8 }, (_, i) => 36 + i);
const KEYS = Array.from({ length: 25 }, (_, i) => 24 + i);
const VELOCITY = 100;
const SHARP = new Set([1, 3, 6, 8, 10]);

/** One slider of the controller: seven bits, sent whenever it goes to another place. */
function Fader({
  label,
  at,
  onSend,
}: {
  readonly label: string;
  readonly at: number;
  readonly onSend: (at: number) => void;
}) {
  const [value, setValue] = useState(at);
  const go = (to: number) => {
    const next = Math.min(127, Math.max(0, Math.round(to)));
    if (next === value) return;
    setValue(next);
    onSend(next);
  };
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 1,
        height: 26,
        fontSize: TYPE.label,
        color: sea.ink2,
      }}
    >
      <Box component="span" sx={{ width: 56, whiteSpace: 'nowrap' }}>
        {label}
      </Box>
      <Track
        label={`Controller ${label.toLowerCase()}`}
        position={value / 127}
        origin={at / 127}
        valueText={String(value)}
        onMove={(position) => {
          go(position * 127);
        }}
        onStep={(steps, fine) => {
          go(value + steps * (fine ? 1 : 4));
        }}
        onReset={() => {
          go(at);
        }}
      />
      <Box component="span" sx={{ width: 26, textAlign: 'right', fontVariantNumeric: 'tabular-nums' }}>
        {value}
      </Box>
    </Box>
  );
}

/** A key or pad: sends a note while it is pressed. */
function Key({
  note,
  label,
  dark = false,
}: {
  readonly note: number;
  readonly label: string;
  readonly dark?: boolean;
}) {
  const held = useHeldNotes((state) => state.notes.has(note));
  const send = (status: number, velocity: number) => {
    takeMidi([status, note, velocity]);
  };
  return (
    <Box
      component="button"
      type="button"
      aria-label={`Controller ${label}`}
      data-held={held || undefined}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        send(NOTE_ON, VELOCITY);
      }}
      onPointerUp={() => {
        send(NOTE_OFF, 0);
      }}
      onPointerCancel={() => {
        send(NOTE_OFF, 0);
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter' && !event.repeat) send(NOTE_ON, VELOCITY);
      }}
      onKeyUp={(event) => {
        if (event.key === 'Enter') send(NOTE_OFF, 0);
      }}
      sx={{
        flex: '1 0 24px',
        minWidth: 0,
        minHeight: 30,
        p: 0,
        font: 'inherit',
        fontSize: TYPE.note,
        color: sea.ink,
        bgcolor: held ? sea.tint3 : dark ? sea.tint2 : sea.tint1,
        border: 0,
        borderBottom: `3px solid ${held ? sea.note : sea.hair}`,
        cursor: 'pointer',
        touchAction: 'none',
        userSelect: 'none',
      }}
    >
      {label}
    </Box>
  );
}

/** A controller that ships with the program: it sends what a real one would, through the same handler. */
export function SimulatedController() {
  return (
    <Box role="group" aria-label="Simulated controller, all of it" sx={{ display: 'grid', gap: '6px' }}>
      <Box
        sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fit, minmax(180px, 1fr))', columnGap: 2 }}
      >
        {FADERS.map((control, i) => (
          <Fader
            key={control}
            label={`Fader ${i + 1}`}
            at={0}
            onSend={(value) => {
              takeMidi([CONTROL, control, value]);
            }}
          />
        ))}
        <Fader
          label="Mod"
          at={0}
          onSend={(value) => {
            takeMidi([CONTROL, MOD, value]);
          }}
        />
        <Fader
          label="Bend"
          at={64}
          onSend={(value) => {
            takeMidi([BEND, value === 127 ? 127 : 0, value]);
          }}
        />
      </Box>
      <Box sx={{ display: 'flex', gap: '2px' }}>
        {PADS.map((note, i) => (
          <Key key={note} note={note} label={`pad ${i + 1}`} />
        ))}
      </Box>
      <Box sx={{ display: 'flex', gap: '2px', flexWrap: 'wrap' }}>
        {KEYS.map((note) => (
          <Key key={note} note={note} label={noteName(note)} dark={SHARP.has(note % 12)} />
        ))}
      </Box>
      <Box sx={{ fontSize: TYPE.note, color: sea.ink2 }}>
        Faders send controllers 20 to 27 on channel 1, Mod controller 1, Bend pitch bend.{' '}
        <Button
          variant="text"
          sx={{ p: '0 4px', fontSize: TYPE.note }}
          onClick={() => {
            for (const note of [...PADS, ...KEYS]) takeMidi([NOTE_OFF, note, 0]);
          }}
        >
          All notes off
        </Button>
      </Box>
    </Box>
  );
}
