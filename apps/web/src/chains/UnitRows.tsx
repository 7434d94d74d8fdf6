import {
  anyDefault,
  bandName,
  unitKindOf,
  type GritUnit,
  type SchemaNode,
  type SoundDocument,
  type UnitPlace,
} from '@abyssal/core';
import { Box } from '@mui/material';
import { memo, type ReactNode } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { Choice } from '../controls/Choice';
import { ListChoice } from '../controls/ListChoice';
import { ParameterRow } from '../controls/ParameterRow';
import { Row } from '../controls/Row';
import { ToggleTitle } from '../controls/ToggleTitle';
import { edit, useSound } from '../state/document-store';
import { setAt, type Path } from '../state/path';
import { useView } from '../state/view-store';
import { fieldWord, OPTION_WORDS } from './unit-words';

/** What a unit has that is no setting of its kind. */
const FRAME = ['kind', 'id', 'on', 'locked', 'match'];
/** What comes last of what every unit has. */
const LAST = ['wetPct', 'levelDb'];
/** More options than these are a list. */
const SIDE_BY_SIDE = 2;
const LABEL_WIDTH = 76;

type Fields = Readonly<Record<string, SchemaNode>>;

interface UnitRowsProps {
  readonly unit: GritUnit;
  readonly name: string;
  readonly path: Path;
  readonly place: UnitPlace;
}

/** Every setting of a unit: its own first, then how much of it is heard and its level. */
export const UnitRows = memo(function UnitRows({ unit, name, path, place }: UnitRowsProps) {
  const kind = unitKindOf(unit.kind);
  const { shape } = kind;
  const off = kind.idle?.(unit) ?? [];
  const fields = Object.entries<SchemaNode>(shape.fields).filter(([field]) => !FRAME.includes(field));
  const own = fields.filter(([field]) => !LAST.includes(field));
  const lists = own.filter(([, node]) => node.kind === 'list');
  // Beside a list there is no room for what has no effect.
  const rows = [
    ...own.filter(([field, node]) => node.kind !== 'list' && (lists.length === 0 || !off.includes(field))),
    ...fields.filter(([field]) => LAST.includes(field)),
  ];
  return (
    <>
      {lists.map(
        ([field, node]) =>
          node.kind === 'list' && (
            <EntryRows
              key={field}
              field={field}
              fields={(node.of as { readonly fields: Fields }).fields}
              unit={unit}
              name={name}
              path={path}
              place={place}
            />
          ),
      )}
      <Columns>
        {rows.map(([field, node]) => (
          <FieldRow
            key={field}
            field={field}
            node={node}
            value={(unit as unknown as Readonly<Record<string, unknown>>)[field]}
            unit={unit}
            of={name}
            path={[...path, field]}
            place={place}
            disabled={off.includes(field)}
          />
        ))}
      </Columns>
    </>
  );
});

const Columns = ({ children }: { readonly children: ReactNode }) => (
  <Box
    sx={{
      display: 'grid',
      gridTemplateColumns: 'repeat(auto-fit, minmax(190px, 1fr))',
      columnGap: '14px',
    }}
  >
    {children}
  </Box>
);

/** How many entries of a list count: a compressor of three bands has settings for four. */
const entriesOf = (unit: GritUnit, list: readonly unknown[]) =>
  'bands' in unit ? Number(unit.bands) : list.length;

/** The settings of one entry of a unit's list, and which of them it is. */
function EntryRows({
  field: list,
  fields,
  unit,
  name,
  path,
  place,
}: UnitRowsProps & { readonly field: string; readonly fields: Fields }) {
  const entries = (unit as unknown as Readonly<Record<string, readonly Readonly<Record<string, unknown>>[]>>)[
    list
  ];
  const count = entriesOf(unit, entries);
  const at = useView((state) => Math.min(state.entry, count - 1));
  const entry = entries[at];
  const idle = unitKindOf(unit.kind).idle?.(unit) ?? [];
  return (
    <Box sx={{ mb: '4px' }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: '8px', mb: '2px' }}>
        <Choice
          label={`${name}: which`}
          options={entries.slice(0, count).map((each, e) => ({
            value: String(e),
            label: each.on === true ? `${e + 1} •` : String(e + 1),
          }))}
          value={String(at)}
          onChange={(next) => {
            useView.setState({ entry: Number(next) });
          }}
        />
        {'on' in fields && (
          <FieldRow
            field="on"
            node={fields.on}
            value={entry.on}
            unit={unit}
            of={`${name} ${at + 1}`}
            path={[...path, list, at, 'on']}
            place={place}
            disabled={false}
          />
        )}
      </Box>
      <Columns>
        {Object.entries<SchemaNode>(fields).map(
          ([field, node]) =>
            field !== 'on' &&
            (entry.on === false || !idle.includes(`${list}.${at}.${field}`)) && (
              <FieldRow
                key={field}
                field={field}
                node={node}
                value={entry[field]}
                unit={unit}
                of={`${name} ${at + 1}`}
                path={[...path, list, at, field]}
                place={place}
                disabled={entry.on === false}
              />
            ),
        )}
      </Columns>
    </Box>
  );
}

interface FieldRowProps {
  readonly field: string;
  readonly node: SchemaNode;
  readonly value: unknown;
  readonly unit: GritUnit;
  readonly of: string;
  readonly path: Path;
  readonly place: UnitPlace;
  readonly disabled: boolean;
}

function FieldRow({ field, node, value, unit, of, path, place, disabled }: FieldRowProps) {
  const word = fieldWord(field);
  const set = (next: unknown) => {
    edit(`${of} · ${word.toLowerCase()}`, (draft) => {
      setAt(draft, path, next);
    });
  };
  const words = OPTION_WORDS[field] ?? {};
  switch (node.kind) {
    case 'number':
      return (
        <ParameterRow path={path} of={of} disabled={disabled} labelWidth={LABEL_WIDTH} linkRoom={false} />
      );
    case 'flag':
      return (
        <ToggleTitle
          label={word}
          of={of}
          on={value === true}
          onToggle={() => {
            set(value !== true);
          }}
        />
      );
    case 'choice': {
      const options = node.options.map((option) => ({ value: option, label: words[option] ?? option }));
      const Several = options.length > SIDE_BY_SIDE ? ListChoice : Choice;
      return (
        <Row label={word} disabled={disabled}>
          <Several
            label={`${of} ${word.toLowerCase()}`}
            options={options}
            value={String(value)}
            disabled={disabled}
            onChange={set}
          />
        </Row>
      );
    }
    case 'text':
      return <SideRow field={field} value={String(value)} unit={unit} of={of} place={place} onChange={set} />;
    default:
      return null;
  }
}

/** Whose sound a unit listens to: itself, the kick, a backing part, or another band. */
function SideRow({
  field,
  value,
  unit,
  of,
  place,
  onChange,
}: Pick<FieldRowProps, 'field' | 'unit' | 'of' | 'place'> & {
  readonly value: string;
  readonly onChange: (next: string) => void;
}) {
  const own = String(anyDefault(unitKindOf(unit.kind).shape.fields[field]));
  const others = useSound(useShallow((sound) => heardBy(sound, place)));
  const word = fieldWord(field);
  return (
    <Row label={word}>
      <ListChoice
        label={`${of} ${word.toLowerCase()}`}
        grow
        options={[
          { value: own, label: OPTION_WORDS[field]?.[own] ?? own },
          ...others.map((each) => {
            const [id, ...name] = each.split(' ');
            return { value: id, label: name.join(' ') };
          }),
        ]}
        value={value}
        onChange={onChange}
      />
    </Row>
  );
}

/** Whom a unit may listen to beside itself, each as its id and its name. */
function heardBy(sound: SoundDocument, place: UnitPlace): string[] {
  const bands =
    place.in === 'band'
      ? sound.grit.bands.flatMap(({ id }, b) => (id === place.id ? [] : [`${id} ${bandName(sound, b)}`]))
      : [];
  return ['kick the kick', ...sound.backing.map(({ id, name }) => `${id} ${name}`), ...bands];
}
