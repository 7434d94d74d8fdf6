import type { Layer } from '@abyssal/core';
import { Box } from '@mui/material';
import { memo } from 'react';
import { Choice } from '../../controls/Choice';
import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { Row } from '../../controls/Row';
import { ToggleTitle } from '../../controls/ToggleTitle';
import { edit, useSound } from '../../state/document-store';
import { useView } from '../../state/view-store';
import { LayerUnits } from './LayerUnits';
import { EnvelopeDrawing, type EnvelopeTimes } from '../../charts/EnvelopeDrawing';

const PANELS = [
  { value: 'loudness', label: 'Envelope' },
  { value: 'voice', label: 'Voice' },
  { value: 'pitch', label: 'Drop' },
  { value: 'plays', label: 'Notes' },
  { value: 'feedback', label: 'Feedback' },
  { value: 'units', label: 'Units' },
] as const;

/** Envelope, voice, pitch drop, what the layer plays, and what it feeds back into itself. */
export const VoicePanel = memo(function VoicePanel({ index }: { readonly index: number }) {
  const id = useSound((sound) => sound.layers[index].id);
  const name = useSound((sound) => sound.layers[index].name);
  const loudness = useSound((sound) => sound.layers[index].loudness);
  const voice = useSound((sound) => sound.layers[index].voice);
  const plays = useSound((sound) => sound.layers[index].plays);
  const drop = useSound((sound) => sound.layers[index].drop);
  const feedback = useSound((sound) => sound.layers[index].feedback);
  const whole = useSound((sound) => sound.feedback);
  const panel = useView((state) => state.layerPanel);
  const change = (what: string, recipe: (layer: Layer) => void, group: string | null = null) => {
    edit(
      `${name} · ${what}`,
      (draft) => {
        recipe(draft.layers[index]);
      },
      group,
    );
  };
  const rows = (part: string, fields: readonly string[], off: readonly string[] = []) =>
    fields.map((field) => (
      <ParameterRow
        key={field}
        path={['layers', index, part, field]}
        of={name}
        disabled={off.includes(field)}
      />
    ));
  return (
    <Panel
      label="Envelope and voice"
      title={
        <Choice
          label="Further settings"
          options={PANELS}
          value={panel}
          onChange={(next) => {
            useView.setState({ layerPanel: next });
          }}
        />
      }
    >
      {panel === 'loudness' && (
        <>
          <EnvelopeDrawing
            of={name}
            times={loudness}
            rowPrefix="layers.*.loudness"
            onChange={(field: keyof EnvelopeTimes, value: number) => {
              change(
                'envelope',
                (draft) => {
                  draft.loudness[field] = value;
                },
                `loudness ${id} ${field}`,
              );
            }}
          />
          <Box sx={{ mt: '4px', display: 'grid', gridTemplateColumns: 'minmax(0,1fr)' }}>
            {rows('loudness', ['delayMs', 'attackMs', 'holdMs', 'decayMs', 'sustainPct', 'releaseMs'])}
          </Box>
        </>
      )}
      {panel === 'voice' && (
        <>
          <Row label="At once">
            <Choice
              label="Notes at once"
              options={['last', 'lowest', 'highest', 'several']}
              value={voice.notes}
              onChange={(notes) => {
                change('notes', (draft) => {
                  draft.voice.notes = notes;
                });
              }}
            />
          </Row>
          {voice.notes === 'several' && rows('voice', ['voices'])}
          {rows('voice', ['glideMs'])}
          <Row label="Glide">
            <Choice
              label="Glide on"
              options={[
                { value: 'ties', label: 'on ties' },
                { value: 'always', label: 'always' },
              ]}
              value={voice.glide}
              onChange={(glide) => {
                change('glide', (draft) => {
                  draft.voice.glide = glide;
                });
              }}
            />
            <Choice
              label="Glide in"
              options={[
                { value: 'time', label: 'whole glide' },
                { value: 'octave', label: 'per octave' },
              ]}
              value={voice.glideIn}
              onChange={(glideIn) => {
                change('glide', (draft) => {
                  draft.voice.glideIn = glideIn;
                });
              }}
            />
          </Row>
          <Row label="Starts">
            <Choice
              label="Starts"
              options={[
                { value: 'each note', label: 'with each note' },
                { value: 'legato', label: 'legato' },
              ]}
              value={voice.trigger}
              onChange={(trigger) => {
                change('starts', (draft) => {
                  draft.voice.trigger = trigger;
                });
              }}
            />
          </Row>
          <Row label="Phase restarts">
            <Choice
              label="Phase restarts"
              options={[
                { value: 'note', label: 'with the note' },
                { value: 'note and kick', label: 'with the note and the kick' },
              ]}
              value={voice.restart}
              onChange={(restart) => {
                change('phase restarts', (draft) => {
                  draft.voice.restart = restart;
                });
              }}
            />
          </Row>
          <Row label="Ends">
            <Choice
              label="Ends"
              options={[
                { value: 'release', label: 'with the release' },
                { value: 'at once', label: 'at once' },
                { value: 'cycle', label: 'with its cycle' },
              ]}
              value={voice.end}
              onChange={(end) => {
                change('ends', (draft) => {
                  draft.voice.end = end;
                });
              }}
            />
          </Row>
          {(['velocityPct', 'velocityFilterOct', 'velocityEnvelopePct', 'velocityBend'] as const).map(
            (field) => (
              <ParameterRow key={field} path={['layers', index, 'voice', field]} of={name} labelWidth={128} />
            ),
          )}
        </>
      )}
      {panel === 'pitch' && (
        <>{rows('drop', ['semitones', 'timeMs', 'bend'], drop.semitones === 0 ? ['timeMs', 'bend'] : [])}</>
      )}
      {panel === 'plays' && (
        <>
          <Row label="Plays">
            <Choice
              label="Plays"
              options={[
                { value: 'written', label: 'as written' },
                { value: 'lowest', label: 'lowest note' },
                { value: 'arpeggio', label: 'arpeggio' },
              ]}
              value={plays.as}
              onChange={(as) => {
                change('plays', (draft) => {
                  draft.plays.as = as;
                });
              }}
            />
          </Row>
          <Row label="Order" disabled={plays.as !== 'arpeggio'}>
            <Choice
              label="Order of the arpeggio"
              options={[
                { value: 'up', label: 'up' },
                { value: 'down', label: 'down' },
                { value: 'both', label: 'both' },
                { value: 'played', label: 'played' },
                { value: 'any', label: 'any' },
              ]}
              value={plays.order}
              onChange={(order) => {
                change('arpeggio', (draft) => {
                  draft.plays.order = order;
                });
              }}
            />
          </Row>
          {rows(
            'plays',
            ['rateBeats', 'octaves', 'gatePct'],
            plays.as === 'arpeggio' ? [] : ['rateBeats', 'octaves', 'gatePct'],
          )}
        </>
      )}
      {panel === 'units' && <LayerUnits key={id} layerId={id} />}
      {panel === 'feedback' && (
        <>
          <FeedbackRows
            title={`${name} into itself`}
            path={['layers', index, 'feedback']}
            of={name}
            feedback={feedback}
            onChange={(recipe) => {
              change('feedback', (draft) => {
                recipe(draft.feedback);
              });
            }}
          />
          <FeedbackRows
            title="The whole sound into itself"
            path={['feedback']}
            of="Whole sound"
            feedback={whole}
            onChange={(recipe) => {
              edit('feedback of the whole sound', (draft) => {
                recipe(draft.feedback);
              });
            }}
          />
        </>
      )}
    </Panel>
  );
});

interface FeedbackRowsProps {
  readonly title: string;
  readonly path: readonly (string | number)[];
  readonly of: string;
  readonly feedback: Layer['feedback'];
  readonly onChange: (recipe: (feedback: Layer['feedback']) => void) => void;
}

function FeedbackRows({ title, path, of, feedback, onChange }: FeedbackRowsProps) {
  return (
    <Box sx={{ mb: '6px' }}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center' }}>
        <ToggleTitle
          label={title}
          on={feedback.on}
          onToggle={() => {
            onChange((draft) => {
              draft.on = !draft.on;
            });
          }}
        />
        <Choice
          label={`${title}: way`}
          options={['clip', 'compare']}
          value={feedback.way}
          disabled={!feedback.on}
          onChange={(way) => {
            onChange((draft) => {
              draft.way = way;
            });
          }}
        />
      </Box>
      <ParameterRow path={[...path, 'amountPct']} of={of} disabled={!feedback.on} />
      <ParameterRow path={[...path, 'delayMs']} of={of} label="Delay" disabled={!feedback.on} />
    </Box>
  );
}
