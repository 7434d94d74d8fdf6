import {
  FILTER_MODES,
  filterShape,
  frequencyAsNote,
  type Filter,
  type FilterMode,
  type Tone,
} from '@abyssal/core';
import { Box } from '@mui/material';
import { memo } from 'react';
import { Choice } from '../../controls/Choice';
import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { ListChoice } from '../../controls/ListChoice';
import { Row } from '../../controls/Row';
import { edit, useSound } from '../../state/document-store';
import { useView } from '../../state/view-store';
import { Switch } from '../../controls/Switch';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';

interface FilterView {
  readonly label: string;
  readonly slopes: boolean;
  readonly forms: boolean;
  readonly own?: readonly 'vowelPct'[];
}

/** What each kind of filter is called, whether it has slopes and forms, and the rows it has to itself. */
const FILTERS: Readonly<Record<FilterMode, FilterView>> = {
  low: { label: 'low-pass', slopes: true, forms: true },
  high: { label: 'high-pass', slopes: true, forms: true },
  band: { label: 'band', slopes: true, forms: true },
  'band clipped': { label: 'band, clipped inside', slopes: true, forms: false },
  notch: { label: 'notch', slopes: true, forms: true },
  comb: { label: 'comb', slopes: false, forms: false },
  'comb negative': { label: 'comb, negative', slopes: false, forms: false },
  vowel: { label: 'vowel', slopes: false, forms: false, own: ['vowelPct'] },
  ring: { label: 'ring', slopes: false, forms: false },
};
const MODES = FILTER_MODES.map((value) => ({ value, label: FILTERS[value].label }));
const SLOPES = filterShape.fields.slope.options.map((value) => ({ value, label: value }));

/** The two filters of a layer, and how the tones pass through them. */
export const FilterPanel = memo(function FilterPanel({ index }: { readonly index: number }) {
  const name = useSound((sound) => sound.layers[index].name);
  const filters = useSound((sound) => sound.layers[index].filters);
  const route = useSound((sound) => sound.layers[index].route);
  // Where each tone goes, an empty word for one that is off.
  const ways = useSound((sound) =>
    sound.layers[index].tones.map((tone) => (tone.on ? tone.to : '')).join(),
  ).split(',');
  const a4Hz = useSound((sound) => sound.ground.a4Hz);
  const f = useView((state) => state.filter);
  const filter = filters[f];
  const at = ['layers', index, 'filters', f] as const;
  const change = (what: string, recipe: (filter: Filter) => void) => {
    edit(`${name} · ${what}`, (draft) => {
      recipe(draft.layers[index].filters[f]);
    });
  };
  const kind = FILTERS[filter.mode];
  const rows = [
    'cutoffHz',
    'resonancePct',
    'widthOct',
    ...(kind.own ?? []),
    'driveDb',
    'levelDb',
    'followPct',
  ] as const;
  return (
    <Panel
      label="Filter"
      title={
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          <Choice
            label="Filter"
            options={[
              { value: '0', label: 'Filter 1' },
              { value: '1', label: 'Filter 2' },
            ]}
            value={String(f)}
            onChange={(value) => {
              useView.setState({ filter: Number(value) });
            }}
          />
          <Switch
            label={`${name} filter`}
            on={filter.on}
            onToggle={() => {
              change('filter', (draft) => {
                draft.on = !draft.on;
              });
            }}
          />
        </Box>
      }
      aside={
        <ListChoice
          label="Filter kind"
          options={MODES}
          value={filter.mode}
          disabled={!filter.on}
          onChange={(mode) => {
            change('filter kind', (draft) => {
              draft.mode = mode;
            });
          }}
        />
      }
    >
      {rows.map((field) => (
        <ParameterRow
          key={field}
          path={[...at, field]}
          of={name}
          disabled={!filter.on}
          label={field === 'cutoffHz' ? 'Cutoff' : undefined}
        />
      ))}
      <Row label="Slope" disabled={!filter.on}>
        <Choice
          label="Slope"
          options={SLOPES}
          value={filter.slope}
          disabled={!kind.slopes}
          onChange={(slope) => {
            change('slope', (draft) => {
              draft.slope = slope;
            });
          }}
        />
        <Choice
          label="Form"
          options={[
            { value: 'state', label: 'smooth' },
            { value: 'ladder', label: 'ladder' },
          ]}
          value={filter.form}
          disabled={!kind.forms}
          onChange={(form) => {
            change('form', (draft) => {
              draft.form = form;
            });
          }}
        />
      </Row>
      <Row label="Routing">
        <Choice
          label="Filter routing"
          options={['series', 'parallel', 'by tone']}
          value={route}
          onChange={(route) => {
            edit(`${name} · way through the filters`, (draft) => {
              draft.layers[index].route = route;
            });
          }}
        />
        <Box sx={{ ml: 'auto', fontSize: TYPE.note, color: sea.ink2, whiteSpace: 'nowrap' }}>
          cutoff on {frequencyAsNote(filter.cutoffHz, a4Hz)}
        </Box>
      </Row>
      {route === 'by tone' && (
        <Row label="to filter">
          {ways.map(
            (way, t) =>
              way !== '' && (
                <ListChoice
                  key={t}
                  label={`Tone ${t + 1} goes to filter`}
                  value={way as Tone['to']}
                  options={[
                    { value: '1', label: `${t + 1} → 1` },
                    { value: '2', label: `${t + 1} → 2` },
                    { value: 'both', label: `${t + 1} → both` },
                    { value: 'past', label: `${t + 1} dry` },
                  ]}
                  onChange={(to) => {
                    edit(`${name} tone ${t + 1} · way`, (draft) => {
                      draft.layers[index].tones[t].to = to;
                    });
                  }}
                />
              ),
          )}
        </Row>
      )}
    </Panel>
  );
});
