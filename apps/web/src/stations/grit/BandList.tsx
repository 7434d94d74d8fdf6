import { bandName, formatValue, MOST_BANDS, parameter, type Band, type UnitPlace } from '@abyssal/core';
import { Box, IconButton, ToggleButton, Tooltip } from '@mui/material';
import { useDrag } from '@use-gesture/react';
import { ChevronsUpDown, SplitSquareVertical, Trash2 } from 'lucide-react';
import { useRef, type ReactNode } from 'react';
import { ChainStrip } from '../../chains/ChainStrip';
import { frequencyHandle } from '../../controls/frequency-handle';
import { ParameterCell } from '../../controls/ParameterCell';
import { Panel } from '../../controls/Panel';
import { ToggleTitle } from '../../controls/ToggleTitle';
import { ValueField } from '../../controls/ValueField';
import { noBand, partBand, removeBand, toggleCleanPath } from '../../state/band-edits';
import { moveCleanPath, moveCrossover } from '../../state/band-moves';
import { edit, presentSound, useSound } from '../../state/document-store';
import { bandSolo, CLEAN_SOLO, toggleSolo } from '../../state/solo';
import { tell, useView } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';

const CLEAN: UnitPlace = { in: 'clean path' };
/** Colours of the bands from the deepest up: pale behind what is read, deep along the edge. */
const DEPTHS = [
  { ground: sea.tint1, edge: sea.tint5 },
  { ground: `color-mix(in srgb, ${sea.tint1} 67%, ${sea.sheet})`, edge: sea.tint4 },
  { ground: `color-mix(in srgb, ${sea.tint1} 33%, ${sea.sheet})`, edge: sea.tint3 },
  { ground: sea.sheet, edge: sea.tint2 },
] as const;
/** What is not heard is paler, and can still be read (4.5 to 1). */
const DIMMED = 0.8;
/** A drag of a border by so many pixels moves it by an octave. */
const OCTAVE_PX = 40;
const FROM = parameter('grit.bands.*.fromHz');
const CLEAN_TO = parameter('grit.cleanPath.frequencyHz');

/** The bands stacked by depth, the deepest at the bottom, each with its chain; their borders are dragged. */
export function BandList() {
  const bands = useSound((sound) => sound.grit.bands);
  const clean = useSound((sound) => sound.grit.cleanPath);
  const full = bands.length + (clean.on ? 1 : 0) >= MOST_BANDS;
  return (
    <Panel
      title="Bands"
      aside={
        <ToggleTitle
          label="clean path"
          on={clean.on}
          onToggle={() => {
            let why: string | null = null;
            edit(`clean path ${clean.on ? 'off' : 'on'}`, (draft) => {
              why = toggleCleanPath(draft);
            });
            if (why) tell(why);
          }}
        />
      }
    >
      <Box sx={{ mx: '-12px', mb: '-10px', containerType: 'inline-size' }}>
        {bands
          .map((band, b) => (
            <BandRow
              key={band.id}
              band={band}
              index={b}
              full={full}
              only={bands.length === 1}
              clean={clean.on}
            />
          ))
          .reverse()}
        {clean.on && <CleanRow />}
      </Box>
    </Panel>
  );
}

interface StripeProps {
  readonly depth: number;
  readonly name: ReactNode;
  readonly tools: ReactNode;
  readonly chain: ReactNode;
  readonly numbers: ReactNode;
  readonly label: string;
  readonly dim?: boolean;
}

/** One band across the page: where it lies, its chain, its numbers. */
function Stripe({ depth, name, tools, chain, numbers, label, dim = false }: StripeProps) {
  const { ground, edge } = DEPTHS[Math.min(depth, DEPTHS.length - 1)];
  return (
    <Box
      role="group"
      aria-label={label}
      sx={{
        display: 'grid',
        gridTemplateColumns: '120px minmax(0, 1fr) 186px 92px',
        alignItems: 'center',
        columnGap: '10px',
        minHeight: 52,
        p: '3px 8px 3px 8px',
        bgcolor: ground,
        borderLeft: `4px solid ${edge}`,
        '& > .of': { opacity: dim ? DIMMED : 1 },
        '@container (max-width: 640px)': { gridTemplateColumns: '112px minmax(0, 1fr) 92px' },
      }}
    >
      <Box className="of">{name}</Box>
      <Box className="of" sx={{ minWidth: 0 }}>
        {chain}
      </Box>
      <Box
        className="of"
        sx={{
          display: 'grid',
          gridTemplateColumns: 'repeat(3, minmax(0, 1fr))',
          columnGap: '6px',
          '@container (max-width: 640px)': { gridColumn: '2 / 4', gridRow: 2, maxWidth: 240 },
        }}
      >
        {numbers}
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: '2px', justifyContent: 'end' }}>{tools}</Box>
    </Box>
  );
}

function Solo({ name, label }: { readonly name: string; readonly label: string }) {
  const solo = useView((state) => state.solo);
  return (
    <ToggleButton
      value="solo"
      size="small"
      selected={solo.includes(name)}
      aria-label={`Solo ${label}`}
      onChange={() => {
        useView.setState({ solo: toggleSolo(solo, name) });
      }}
    >
      solo
    </ToggleButton>
  );
}

interface BandRowProps {
  readonly band: Band;
  readonly index: number;
  readonly full: boolean;
  readonly only: boolean;
  readonly clean: boolean;
}

function BandRow({ band, index, full, only, clean }: BandRowProps) {
  const name = useSound((sound) => bandName(sound, index));
  const label = `Band ${name}`;
  const cell = (field: 'levelDb' | 'widthPct' | 'wetPct') => (
    <ParameterCell path={['grit', 'bands', index, field]} of={label} />
  );
  const depth = index + (clean ? 1 : 0);
  return (
    <>
      <Stripe
        depth={depth}
        label={label}
        dim={!band.on}
        name={<Box sx={{ fontWeight: 600, lineHeight: 1.25 }}>{name}</Box>}
        chain={<ChainStrip place={{ in: 'band', id: band.id }} empty="untouched" />}
        numbers={
          <>
            {cell('levelDb')}
            {cell('widthPct')}
            {cell('wetPct')}
          </>
        }
        tools={
          <>
            <ToggleButton
              value="mute"
              size="small"
              selected={!band.on}
              aria-label={`Mute ${label}`}
              onChange={() => {
                edit(`${band.on ? 'mute' : 'unmute'} ${name}`, (draft) => {
                  draft.grit.bands[index].on = !band.on;
                });
              }}
            >
              mute
            </ToggleButton>
            <Solo name={bandSolo(band.id)} label={label} />
            <Tooltip describeChild title="Part this band in two">
              <span>
                <IconButton
                  size="small"
                  aria-label={`Part ${label}`}
                  disabled={full}
                  onClick={() => {
                    const why = noBand(presentSound());
                    if (why) return tell(why);
                    edit(`part ${name}`, (draft) => {
                      partBand(draft, index);
                    });
                  }}
                >
                  <SplitSquareVertical size={15} />
                </IconButton>
              </span>
            </Tooltip>
            <Tooltip describeChild title="Remove this band; its neighbour reaches over it">
              <span>
                <IconButton
                  size="small"
                  aria-label={`Remove ${label}`}
                  disabled={only}
                  onClick={() => {
                    edit(`remove ${name}`, (draft) => {
                      removeBand(draft, band.id);
                    });
                  }}
                >
                  <Trash2 size={15} />
                </IconButton>
              </span>
            </Tooltip>
          </>
        }
      />
      {index > 0 && (
        <Border
          label={`Crossover under ${name}`}
          hz={band.fromHz}
          row={FROM}
          onChange={(hz) => {
            moveCrossover(index, hz);
          }}
        />
      )}
      {index === 0 && clean && <CleanBorder />}
    </>
  );
}

function CleanBorder() {
  const hz = useSound((sound) => sound.grit.cleanPath.frequencyHz);
  return <Border label="Clean path below" hz={hz} row={CLEAN_TO} onChange={moveCleanPath} />;
}

function CleanRow() {
  const clean = useSound((sound) => sound.grit.cleanPath);
  return (
    <Stripe
      depth={0}
      label="Clean path"
      name={
        <Box sx={{ fontWeight: 600, lineHeight: 1.25 }}>
          below {formatValue(CLEAN_TO, clean.frequencyHz)}
          {clean.units.length > 0 && (
            <ToggleTitle
              label="left alone"
              on={clean.alone}
              onToggle={() => {
                edit(clean.alone ? 'clean path worked on' : 'clean path left alone', (draft) => {
                  draft.grit.cleanPath.alone = !clean.alone;
                });
              }}
            />
          )}
        </Box>
      }
      chain={
        <Box sx={{ opacity: clean.alone && clean.units.length > 0 ? DIMMED : 1 }}>
          <ChainStrip place={CLEAN} empty="left alone: clean and mono" />
        </Box>
      }
      numbers={
        <>
          <ParameterCell path={['grit', 'cleanPath', 'levelDb']} of="Clean path" />
          <Word label="Width" text="mono" />
          <Word label="Wet" text={clean.alone || clean.units.length === 0 ? 'clean' : 'worked on'} />
        </>
      }
      tools={<Solo name={CLEAN_SOLO} label="the clean path" />}
    />
  );
}

const Word = ({ label, text }: { readonly label: string; readonly text: string }) => (
  <Box>
    <Box sx={{ fontSize: TYPE.mark, color: sea.ink2, lineHeight: '24px' }}>{label}</Box>
    <Box sx={{ lineHeight: '24px', fontSize: TYPE.label }}>{text}</Box>
  </Box>
);

interface BorderProps {
  readonly label: string;
  readonly hz: number;
  readonly row: typeof FROM;
  readonly onChange: (hz: number) => void;
}

/** The border between two bands: dragged up and down, moved by the arrow keys, or typed. */
function Border({ label, hz, row, onChange }: BorderProps) {
  const a4Hz = useSound((sound) => sound.ground.a4Hz);
  const element = useRef<HTMLDivElement>(null);
  const start = useRef(hz);
  const { set, props } = frequencyHandle({ label, row, value: hz, onChange });
  const bind = useDrag(
    ({ first, movement: [, dy], event }) => {
      event.preventDefault();
      if (first) {
        start.current = hz;
        element.current?.focus({ preventScroll: true });
      }
      set(start.current * 2 ** (-dy / OCTAVE_PX));
    },
    { pointer: { keys: false } },
  );
  return (
    <Box sx={{ position: 'relative', height: 0, zIndex: 1 }}>
      <Box
        ref={element}
        {...bind()}
        {...props}
        sx={{
          position: 'absolute',
          left: 82,
          width: 32,
          top: -12,
          height: 24,
          display: 'flex',
          alignItems: 'center',
          justifyContent: 'center',
          color: sea.note,
          cursor: 'ns-resize',
          touchAction: 'none',
        }}
      >
        <ChevronsUpDown size={14} />
      </Box>
      <Box
        sx={{
          position: 'absolute',
          left: 0,
          right: 0,
          top: 0,
          borderTop: `1px dashed ${sea.note}`,
          pointerEvents: 'none',
        }}
      />
      <Box sx={{ position: 'absolute', left: 12, top: -12, bgcolor: sea.sheet, borderRadius: '2px' }}>
        <ValueField row={row} label={label} value={hz} a4Hz={a4Hz} width={66} onChange={set} />
      </Box>
    </Box>
  );
}
