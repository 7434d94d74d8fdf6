import {
  chainKeys,
  leftOut,
  UNIT_FAMILIES,
  UNIT_NAMES,
  unitKindOf,
  unitName,
  withUnits,
  type GritUnit,
  type UnitLevel,
  type UnitPlace,
} from '@abyssal/core';
import { Box, Button, IconButton, ToggleButton, Tooltip } from '@mui/material';
import { Copy, Trash2 } from 'lucide-react';
import { endHearing, hearChange, useHearing } from '../audio/hear-change';
import { ListChoice } from '../controls/ListChoice';
import { Panel } from '../controls/Panel';
import { Switch } from '../controls/Switch';
import { useChainFigures } from '../sounding/chain-figures';
import { edit, presentSound, useSound } from '../state/document-store';
import { chainAt, keysOf } from '../state/path';
import { copyUnit, noRoom, removeUnit, replaceUnit } from '../state/unit-edits';
import { tell, tellError, useView } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { NUMERALS } from '../theme/theme';
import { UnitDrawing } from './UnitDrawing';
import { UnitRows } from './UnitRows';

const KINDS = [...UNIT_NAMES]
  .sort((a, b) => UNIT_FAMILIES.indexOf(unitKindOf(a).family) - UNIT_FAMILIES.indexOf(unitKindOf(b).family))
  .map((value) => ({ value, label: unitKindOf(value).label }));

/** A unit: what it is for, what it does, and all that can be set of it. */
export function UnitPanel({ unit, place }: { readonly unit: GritUnit; readonly place: UnitPlace }) {
  const at = useSound((sound) => chainAt(sound, place).findIndex(({ id }) => id === unit.id));
  const name = useSound((sound) => unitName(chainAt(sound, place), unit));
  const path = useSound((sound) => chainKeys(sound, place).join('.'));
  const change = (what: string, recipe: (draft: GritUnit) => void) => {
    edit(`${name} · ${what}`, (draft) => {
      recipe(chainAt(draft, place)[at]);
    });
  };
  return (
    <Panel
      label={name}
      title={
        <Box component="span" sx={{ display: 'inline-flex', alignItems: 'center', gap: '6px' }}>
          <Switch
            label={`${name} on`}
            on={unit.on}
            onToggle={() => {
              change(unit.on ? 'off' : 'on', (draft) => {
                draft.on = !unit.on;
              });
            }}
          />
          <ListChoice
            label="Kind of unit"
            options={KINDS}
            value={unit.kind}
            onChange={(kind) => {
              edit(`${unitKindOf(kind).label.toLowerCase()} for ${name.toLowerCase()}`, (draft) => {
                replaceUnit(draft, unit.id, kind);
              });
            }}
          />
        </Box>
      }
      aside={<UnitTools unit={unit} name={name} place={place} change={change} />}
    >
      <Box sx={{ fontSize: TYPE.note, color: sea.ink2, mb: '4px', lineHeight: 1.35 }}>
        {unitKindOf(unit.kind).purpose} <Figures unit={unit} />
      </Box>
      <UnitDrawing unit={unit} />
      <Box sx={{ mt: '6px' }}>
        <UnitRows unit={unit} name={name} path={[...keysOf(path), at]} place={place} />
      </Box>
    </Panel>
  );
}

interface ToolsProps {
  readonly unit: GritUnit;
  readonly name: string;
  readonly place: UnitPlace;
  readonly change: (what: string, recipe: (draft: GritUnit) => void) => void;
}

function UnitTools({ unit, name, place, change }: ToolsProps) {
  return (
    <>
      <Compare unit={unit} name={name} />
      <Tooltip describeChild title="Holds what comes out as loud as what goes in.">
        <ToggleButton
          value="match"
          size="small"
          selected={unit.match}
          aria-label={`Match the level of ${name}`}
          onChange={() => {
            change(unit.match ? 'level as set' : 'level matched', (draft) => {
              draft.match = !unit.match;
            });
          }}
        >
          match
        </ToggleButton>
      </Tooltip>
      <Tooltip describeChild title="A chain by chance leaves it as it is.">
        <ToggleButton
          value="lock"
          size="small"
          selected={unit.locked}
          aria-label={`Lock ${name}`}
          onChange={() => {
            change(unit.locked ? 'unlocked' : 'locked', (draft) => {
              draft.locked = !unit.locked;
            });
          }}
        >
          lock
        </ToggleButton>
      </Tooltip>
      <Tooltip describeChild title="Copy">
        <IconButton
          size="small"
          aria-label={`Copy ${name}`}
          onClick={() => {
            const why = noRoom(presentSound(), place);
            if (why) return tell(why);
            let id = '';
            edit(`copy ${name}`, (draft) => {
              id = copyUnit(draft, unit.id);
            });
            useView.setState({ unitId: id });
          }}
        >
          <Copy size={15} />
        </IconButton>
      </Tooltip>
      <Tooltip describeChild title="Remove">
        <IconButton
          size="small"
          aria-label={`Remove ${name}`}
          onClick={() => {
            const rest = chainAt(presentSound(), place);
            const next = rest.findIndex(({ id }) => id === unit.id);
            edit(`remove ${name}`, (draft) => {
              removeUnit(draft, unit.id);
            });
            useView.setState({ unitId: (rest.at(next + 1) ?? rest.at(next - 1))?.id ?? null, entry: 0 });
          }}
        >
          <Trash2 size={15} />
        </IconButton>
      </Tooltip>
    </>
  );
}

/** Hears the loop with the unit and without it in turns, as loud either way. */
function Compare({ unit, name }: { readonly unit: GritUnit; readonly name: string }) {
  const measured = useChainFigures(({ units }) => units?.get(unit.id) ?? null);
  const hearing = useHearing((state) => state.name === `without ${unit.id}`);
  const now = useHearing((state) => state.now);
  return (
    <Button
      variant={hearing ? 'contained' : 'outlined'}
      disabled={!unit.on || (!measured && !hearing)}
      aria-label={`Compare with and without ${name}`}
      sx={{ p: '0 6px', fontSize: TYPE.note, whiteSpace: 'nowrap' }}
      onClick={() => {
        if (hearing) return endHearing();
        if (!measured) return;
        const without = withUnits(presentSound(), (each) =>
          each.id === unit.id ? leftOut(each, measured) : each,
        );
        hearChange(`without ${unit.id}`, without).catch(tellError);
      }}
    >
      {hearing ? (now === 'before' ? 'with it' : 'without it') : 'compare'}
    </Button>
  );
}

const signed = (x: number) => `${x < 0 ? '−' : '+'}${Math.abs(x).toFixed(1)}`;
const minus = (from: number | null, what: number | null) =>
  from === null || what === null ? null : from - what;

/** By how much it is louder behind the unit, and what became of the crest. */
function Figures({ unit }: { readonly unit: GritUnit }) {
  const measured = useChainFigures(({ units }) => units?.get(unit.id) ?? null);
  if (!unit.on || !measured) return null;
  const { before, after } = measured;
  const louder = minus(after.loudnessLufs, before.loudnessLufs);
  const crest = minus(after.crestDb, before.crestDb);
  return (
    <Box component="span" sx={{ color: sea.ink }}>
      {louder === null ? (
        'Nothing goes through it in this loop.'
      ) : (
        <>
          <Figure text={`${Math.abs(louder).toFixed(1)} dB`} /> {louder < 0 ? 'softer' : 'louder'}
          {unit.match ? ', matched' : ''}
          {crest !== null && (
            <>
              ; crest {figure(before)} to {figure(after)} dB (<Figure text={signed(crest)} />)
            </>
          )}
          .
        </>
      )}
    </Box>
  );
}

const figure = ({ crestDb }: UnitLevel) => (crestDb === null ? '–' : crestDb.toFixed(1));

const Figure = ({ text }: { readonly text: string }) => (
  <Box component="span" sx={{ fontFamily: NUMERALS, fontStyle: 'italic', fontSize: TYPE.body }}>
    {text}
  </Box>
);
