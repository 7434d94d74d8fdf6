import { fmCycle, parameter } from '@abyssal/core';
import { Box } from '@mui/material';
import { useMemo, useState } from 'react';
import { Choice } from '../../../controls/Choice';
import { ParameterRow } from '../../../controls/ParameterRow';
import { ValueField } from '../../../controls/ValueField';
import { useSound } from '../../../state/document-store';
import { sea } from '../../../theme/sea';
import { TYPE } from '../../../theme/type';
import { NUMERALS } from '../../../theme/theme';
import { EnvelopeDrawing } from '../../../charts/EnvelopeDrawing';
import { useTone, type ToneProps } from './use-tone';
import { WavePicture } from './WavePicture';

const ROW = 'layers.*.tones.*.source.fm';
const AMOUNT = parameter(`${ROW}.matrix.*`);
const RATIO = parameter(`${ROW}.oscillators.*.ratio`);
const OUT = parameter(`${ROW}.oscillators.*.levelPct`);

/** The water of an amount: none, then deeper by steps. */
function depthOf(amount: number): string | undefined {
  if (amount === 0) return undefined;
  return amount < 0.5
    ? sea.tint1
    : amount < 2
      ? sea.tint2
      : `color-mix(in srgb, ${sea.tint3} ${amount < 5 ? 70 : 100}%, ${sea.tint1})`;
}

/**
 * Four oscillators and who steers whom: ratios and levels beside a chart of the amounts (rows steer columns,
 * the diagonal itself), the one that is chosen, and a picture of what comes out.
 */
export function FmEditor(props: ToneProps) {
  const { source, of, at, change } = useTone<'fm'>(props);
  const a4Hz = useSound((sound) => sound.ground.a4Hz);
  const [chosen, setChosen] = useState(0);
  const [part, setPart] = useState<'wave' | 'envelope'>('wave');
  const oscillator = source.oscillators[chosen];
  const cycle = useMemo(() => fmCycle(source), [source]);
  const own = [...at, 'oscillators', chosen] as const;
  const set = (o: number, what: string, recipe: (each: typeof oscillator) => void, group?: string) => {
    change(
      `oscillator ${o + 1} ${what}`,
      (draft) => {
        recipe(draft.oscillators[o]);
      },
      group,
    );
  };
  return (
    <>
      <WavePicture label={`${of}: two cycles of the note`} values={cycle} height={52} />
      <Box
        component="table"
        aria-label={`${of}: ratios, and amounts by which oscillators steer each other`}
        sx={{
          width: '100%',
          tableLayout: 'fixed',
          borderCollapse: 'collapse',
          fontSize: TYPE.note,
          color: sea.ink2,
          '& td, & th': { p: '1px 2px', fontWeight: 400, textAlign: 'center' },
          '& input': { width: '100% !important', minWidth: '0 !important', fontSize: TYPE.note },
          // The amounts are set like the soundings of a chart, deeper water for more.
          '& .sounding': { border: `1px solid ${sea.hair}` },
          '& .sounding input': {
            fontFamily: NUMERALS,
            fontStyle: 'italic',
            fontSize: TYPE.body,
            textAlign: 'center',
            borderBottomColor: 'transparent',
          },
        }}
      >
        <thead>
          <tr>
            <th scope="col" style={{ width: '17%' }}>
              wave
            </th>
            <th scope="col">ratio</th>
            {[1, 2, 3, 4].map((n) => (
              <th key={n} scope="col">
                into {n}
              </th>
            ))}
            <th scope="col">out</th>
          </tr>
        </thead>
        <tbody>
          {source.oscillators.map((each, o) => (
            <tr
              key={o}
              style={{ boxShadow: o === chosen ? `inset 2px 0 ${sea.note}` : undefined }}
              onFocus={() => {
                setChosen(o);
              }}
            >
              <td>
                <Box
                  component="button"
                  aria-pressed={o === chosen}
                  onClick={() => {
                    setChosen(o);
                  }}
                  sx={{
                    font: 'inherit',
                    border: 0,
                    p: 0,
                    minHeight: 24,
                    minWidth: 24,
                    bgcolor: 'transparent',
                    color: sea.ink,
                    fontWeight: o === chosen ? 600 : 400,
                    cursor: 'pointer',
                    opacity: each.on ? 1 : 0.7,
                  }}
                >
                  {o + 1} {each.wave}
                </Box>
              </td>
              <td>
                <ValueField
                  row={RATIO}
                  label={`${of} ${o + 1} ratio`}
                  value={each.ratio}
                  a4Hz={a4Hz}
                  width={44}
                  onChange={(value) => {
                    set(o, 'ratio', (draft) => {
                      draft.ratio = value;
                    });
                  }}
                />
              </td>
              {[0, 1, 2, 3].map((t) => {
                const place = o * 4 + t;
                const amount = source.matrix[place];
                return (
                  <td key={t} className="sounding" style={{ background: depthOf(amount) }}>
                    <ValueField
                      row={AMOUNT}
                      label={`${of} ${o + 1} into ${t === o ? 'itself' : t + 1}`}
                      value={amount}
                      a4Hz={a4Hz}
                      width={40}
                      onChange={(value) => {
                        change(`${o + 1} into ${t + 1}`, (draft) => {
                          draft.matrix[place] = value;
                        });
                      }}
                    />
                  </td>
                );
              })}
              <td>
                <ValueField
                  row={OUT}
                  label={`${of} ${o + 1} out`}
                  value={each.levelPct}
                  a4Hz={a4Hz}
                  width={44}
                  onChange={(value) => {
                    set(o, 'out', (draft) => {
                      draft.levelPct = value;
                    });
                  }}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </Box>
      <ParameterRow path={[...at, 'scale']} of={of} />
      <Box
        sx={{
          display: 'flex',
          flexWrap: 'wrap',
          justifyContent: 'space-between',
          alignItems: 'center',
          gap: '2px 8px',
          m: '4px 0 2px',
        }}
      >
        <Choice
          label="Part of the oscillator"
          options={[
            { value: 'wave', label: `Oscillator ${chosen + 1}` },
            { value: 'envelope', label: 'Its envelope' },
          ]}
          value={part}
          onChange={setPart}
        />
        <Choice
          label="Wave"
          options={['sine', 'triangle', 'saw', 'square']}
          value={oscillator.wave}
          onChange={(wave) => {
            set(chosen, 'wave', (draft) => {
              draft.wave = wave;
            });
          }}
        />
      </Box>
      {part === 'wave' ? (
        (['fineCents', 'velocityPct'] as const).map((field) => (
          <ParameterRow key={field} path={[...own, field]} of={`${of} oscillator ${chosen + 1}`} />
        ))
      ) : (
        <>
          <EnvelopeDrawing
            of={`${of} oscillator ${chosen + 1}`}
            rowPrefix={`${ROW}.oscillators.*.envelope`}
            times={oscillator.envelope}
            onChange={(field, value) => {
              set(
                chosen,
                `envelope ${field}`,
                (draft) => {
                  Object.assign(draft.envelope, { [field]: value });
                },
                `${at.join('.')} ${chosen} ${field}`,
              );
            }}
          />
          {(['attackMs', 'decayMs', 'sustainPct', 'releaseMs'] as const).map((field) => (
            <ParameterRow
              key={field}
              path={[...own, 'envelope', field]}
              of={`${of} oscillator ${chosen + 1}`}
            />
          ))}
        </>
      )}
    </>
  );
}
