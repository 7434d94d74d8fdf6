import {
  fillHarmonics,
  formatValue,
  HARMONIC_FILLS,
  harmonicDb,
  KEY_NAMES,
  MOST_HARMONICS,
  noteName,
  noteToHz,
  parameter,
  treatmentOf,
  type SourceOf,
} from '@abyssal/core';
import { Box, Button, IconButton, ToggleButton } from '@mui/material';
import { ChevronDown, ChevronUp } from 'lucide-react';
import { useState } from 'react';
import { Choice } from '../../../controls/Choice';
import { ParameterRow } from '../../../controls/ParameterRow';
import { ToggleTitle } from '../../../controls/ToggleTitle';
import { useSound } from '../../../state/document-store';
import { sea } from '../../../theme/sea';
import { TYPE } from '../../../theme/type';
import { HarmonicLadder, RUNGS } from './Ladder';
import { useTone, type ToneProps } from './use-tone';

const FLOOR = -90;
type Part = 'drawing' | 'set' | 'pocket' | 'ring';

/** Fills a set up to a harmonic, so that it can be changed there. */
function reach(set: { levelsDb: number[]; phasesDeg: number[] }, n: number): void {
  while (set.levelsDb.length <= n) set.levelsDb.push(FLOOR);
}

/** Harmonics drawn one by one, in one state or two, and what is done to the whole set. */
export function HarmonicsEditor(props: ToneProps) {
  const { source, of, at, change } = useTone<'harmonics'>(props);
  const ground = useSound((sound) => sound.ground);
  const [first, setFirst] = useState(0);
  const [chosen, setChosen] = useState(0);
  const [state, setState] = useState<'a' | 'b'>('a');
  const [part, setPart] = useState<Part>('drawing');
  const shown = state === 'b' && source.b ? 'b' : 'a';
  const set = source[shown] ?? source.a;
  const treatment = treatmentOf(source, ground.a4Hz);
  const hz = noteToHz(source.pocket.pitch, ground.a4Hz);
  const root = 24 + KEY_NAMES.indexOf(ground.key);
  const setOf = (draft: SourceOf<'harmonics'>) => draft[shown] ?? draft.a;
  const draw = (n: number, db: number) => {
    change(
      'harmonic',
      (draft) => {
        const target = setOf(draft);
        reach(target, n);
        target.levelsDb[n] = db;
      },
      `${shown} drawing`,
    );
  };
  const row = parameter('layers.*.tones.*.source.harmonics.a.levelsDb.*');
  return (
    <>
      <Box
        sx={{
          display: 'flex',
          justifyContent: 'space-between',
          alignItems: 'center',
          mb: '4px',
          gap: '4px',
          flexWrap: 'wrap',
        }}
      >
        <Choice
          label="Drawing"
          options={[
            { value: 'a', label: 'first' },
            { value: 'b', label: source.b ? 'second' : '+ second' },
          ]}
          value={shown}
          onChange={(next) => {
            if (next === 'b' && !source.b)
              change('second state', (draft) => {
                draft.b = structuredClone(source.a);
              });
            setState(next);
          }}
        />
        <Box sx={{ display: 'flex', alignItems: 'center', fontSize: TYPE.note, color: sea.ink2 }}>
          {first + 1}–{Math.min(MOST_HARMONICS, first + RUNGS)}; {set.levelsDb.length} drawn
          <IconButton
            size="small"
            aria-label="Lower harmonics"
            disabled={first === 0}
            onClick={() => {
              setFirst(Math.max(0, first - RUNGS));
            }}
          >
            <ChevronDown size={14} />
          </IconButton>
          <IconButton
            size="small"
            aria-label="Higher harmonics"
            disabled={first + RUNGS >= MOST_HARMONICS}
            onClick={() => {
              setFirst(Math.min(MOST_HARMONICS - RUNGS, first + RUNGS));
            }}
          >
            <ChevronUp size={14} />
          </IconButton>
        </Box>
      </Box>
      <HarmonicLadder
        of={of}
        first={first}
        chosen={chosen}
        hz={hz}
        row={row}
        levels={Array.from({ length: RUNGS }, (_, i) => set.levelsDb[first + i] ?? FLOOR)}
        heard={Array.from({ length: RUNGS }, (_, i) =>
          harmonicDb(set.levelsDb[first + i] ?? FLOOR, first + i + 1, treatment),
        )}
        onDraw={draw}
        onChoose={(n) => {
          setChosen(n);
          if (n < first || n >= first + RUNGS)
            setFirst(Math.max(0, Math.min(MOST_HARMONICS - RUNGS, n - (n % RUNGS))));
        }}
      />
      <Box sx={{ display: 'flex', gap: '4px', m: '5px 0', flexWrap: 'wrap' }}>
        {HARMONIC_FILLS.map((fill) => (
          <Button
            key={fill}
            variant="outlined"
            size="small"
            onClick={() => {
              change(`fill ${fill}`, (draft) => {
                const count = Math.max(set.levelsDb.length, 16);
                Object.assign(setOf(draft), fillHarmonics(fill, count));
              });
            }}
          >
            {fill}
          </Button>
        ))}
        <Button
          variant="outlined"
          size="small"
          onClick={() => {
            change('hard stop', (draft) => {
              draft.stopAfter = chosen + 1;
            });
          }}
        >
          stop at {chosen + 1}
        </Button>
        {source.b && (
          <ToggleButton
            value="b"
            size="small"
            onClick={() => {
              change('one state', (draft) => {
                draft.b = null;
              });
              setState('a');
            }}
          >
            only one
          </ToggleButton>
        )}
      </Box>
      <Choice
        label="Part of the harmonics"
        options={[
          { value: 'drawing', label: `harmonic ${chosen + 1}` },
          { value: 'set', label: 'whole set' },
          { value: 'pocket', label: 'pocket' },
          { value: 'ring', label: 'stretch and ring' },
        ]}
        value={part}
        onChange={setPart}
      />
      {part === 'drawing' && (
        <>
          <ChosenRow
            label="Its level"
            value={set.levelsDb[chosen] ?? FLOOR}
            path={[...at, shown, 'levelsDb', chosen]}
            present={chosen < set.levelsDb.length}
            onMake={() => {
              change('harmonic', (draft) => {
                reach(setOf(draft), chosen);
              });
            }}
            of={of}
          />
          <ChosenRow
            label="Its phase"
            value={set.phasesDeg[chosen] ?? 0}
            path={[...at, shown, 'phasesDeg', chosen]}
            present={chosen < set.phasesDeg.length}
            onMake={() => {
              change('phase', (draft) => {
                const target = setOf(draft);
                while (target.phasesDeg.length <= chosen) target.phasesDeg.push(0);
              });
            }}
            of={of}
          />
          {source.b && <ParameterRow path={[...at, 'positionPct']} of={of} label="Morph" />}
        </>
      )}
      {part === 'set' &&
        (['stopAfter', 'tiltDb', 'evenDb'] as const).map((field) => (
          <ParameterRow key={field} path={[...at, field]} of={of} />
        ))}
      {part === 'pocket' && (
        <>
          <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center' }}>
            <ToggleTitle
              label="Clear a pocket"
              on={source.pocket.on}
              onToggle={() => {
                change('pocket', (draft) => {
                  draft.pocket.on = !draft.pocket.on;
                });
              }}
            />
            <Button
              size="small"
              variant="outlined"
              disabled={!source.pocket.on}
              onClick={() => {
                change('pocket on the root', (draft) => {
                  draft.pocket.pitch = root;
                });
              }}
            >
              on {noteName(root)}, the root
            </Button>
          </Box>
          {(['fromHz', 'toHz', 'amountDb', 'pitch'] as const).map((field) => (
            <ParameterRow key={field} path={[...at, 'pocket', field]} of={of} disabled={!source.pocket.on} />
          ))}
        </>
      )}
      {part === 'ring' &&
        (['stretchPct', 'ringMs', 'ringTiltPct'] as const).map((field) => (
          <ParameterRow
            key={field}
            path={[...at, field]}
            of={of}
            disabled={field === 'ringTiltPct' && source.ringMs === 0}
          />
        ))}
      <Box
        component="span"
        sx={{ position: 'absolute', width: '1px', height: '1px', overflow: 'hidden', clip: 'rect(0 0 0 0)' }}
        aria-live="polite"
      >
        Harmonic {chosen + 1}: {formatValue(row, set.levelsDb[chosen] ?? FLOOR)}
      </Box>
    </>
  );
}

interface ChosenRowProps {
  readonly label: string;
  readonly value: number;
  readonly path: readonly (string | number)[];
  readonly present: boolean;
  readonly onMake: () => void;
  readonly of: string;
}

/** A row of the chosen harmonic; one that is not drawn yet is drawn first. */
function ChosenRow({ label, path, present, onMake, of }: ChosenRowProps) {
  return present ? (
    <ParameterRow path={path} of={of} label={label} />
  ) : (
    <Box
      sx={{
        height: 25,
        display: 'flex',
        alignItems: 'center',
        gap: 1,
        fontSize: TYPE.label,
        color: sea.ink2,
      }}
    >
      <span style={{ flex: '0 0 96px' }}>{label}</span>
      <Button size="small" variant="outlined" onClick={onMake}>
        set
      </Button>
    </Box>
  );
}
