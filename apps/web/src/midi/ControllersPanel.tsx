import { CONTROL_WAYS, MACRO_IDS, targetLabel } from '@abyssal/core';
import { Box, Button, IconButton } from '@mui/material';
import { X } from 'lucide-react';
import { memo, useState } from 'react';
import { ListChoice } from '../controls/ListChoice';
import { Panel } from '../controls/Panel';
import { TargetChooser } from '../controls/TargetChooser';
import { useSound } from '../state/document-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { bind, bindingsOf, learn, unbind, useControls, type Bound } from './bindings';
import { SimulatedController } from './SimulatedController';
import { listenToControllers } from './take-midi';

const CONTROLS = ['bend', 'pressure', 'note pressure', ...Array.from({ length: 120 }, (_, i) => `cc ${i}`)];

/** Controllers: which are heard, what their controls are bound to, and the simulated one. */
export const ControllersPanel = memo(function ControllersPanel() {
  const macros = useSound((sound) => sound.macros);
  const { ofBrowser, learning, heard } = useControls();
  const [controllers, setControllers] = useState<string[] | null>(null);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [simulated, setSimulated] = useState(false);
  const bindings = bindingsOf({ macros }, ofBrowser);
  return (
    <Panel
      title="Controllers"
      aside={
        <>
          <Button
            variant="outlined"
            onClick={() => {
              void listenToControllers().then(setControllers);
            }}
          >
            Listen to MIDI
          </Button>
          <Button
            variant="outlined"
            aria-pressed={simulated}
            onClick={() => {
              setSimulated(!simulated);
            }}
          >
            Simulated controller
          </Button>
          <Button
            variant="outlined"
            onClick={(event) => {
              setAnchor(event.currentTarget);
            }}
          >
            Learn…
          </Button>
        </>
      }
    >
      <TargetChooser
        taken={[]}
        first={MACRO_IDS.map((id) => `macros.${id}.valuePct`)}
        anchor={anchor}
        label="What a control is to move"
        onChoose={(target) => {
          setAnchor(null);
          learn(target);
        }}
        onClose={() => {
          setAnchor(null);
        }}
      />
      {learning !== null && (
        <Box role="status" sx={{ color: sea.note, display: 'flex', alignItems: 'center', gap: 1 }}>
          Move a control for <TargetName target={learning} />…
          <Button
            variant="text"
            onClick={() => {
              learn(null);
            }}
          >
            Never mind
          </Button>
        </Box>
      )}
      {bindings.length === 0 && learning === null && (
        <Box sx={{ color: sea.ink2, lineHeight: 1.5 }}>
          No control is bound yet. Choose “Learn…”, then what is to be moved, then move a control.
        </Box>
      )}
      {bindings.map((bound) => (
        <BindingRow key={bound.target} bound={bound} />
      ))}
      <Box sx={{ fontSize: TYPE.note, color: sea.ink2, mt: '4px' }}>
        {controllers === null
          ? 'Bindings of macros are kept with the sound, those of parameters in this browser.'
          : controllers.length === 0
            ? 'No controller connected yet. Plug one in and move it.'
            : `Listening to ${controllers.join(', ')}.`}{' '}
        {heard && `Heard last: ${heard}.`}
      </Box>
      {simulated && (
        <Box sx={{ mt: '8px' }}>
          <SimulatedController />
        </Box>
      )}
    </Panel>
  );
});

/** The name of what a target means; as it is written where the sound has no such place. */
function TargetName({ target }: { readonly target: string }) {
  return useSound((sound) => targetLabel(sound, target) ?? target);
}

/** One binding: what it moves, and the control that does. */
function BindingRow({ bound }: { readonly bound: Bound }) {
  const label = useSound((sound) => targetLabel(sound, bound.target));
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: 'minmax(0, 1fr) 96px 96px 130px 24px',
        gap: 1,
        alignItems: 'center',
        borderTop: `1px solid ${sea.hair}`,
        py: '2px',
        fontSize: TYPE.label,
      }}
    >
      <Box sx={{ color: label ? sea.ink : sea.ink2 }}>{label ?? `${bound.target} (not in this sound)`}</Box>
      <ListChoice
        label={`Control of ${label ?? bound.target}`}
        options={CONTROLS}
        value={bound.control}
        onChange={(control) => {
          bind({ ...bound, control });
        }}
      />
      <ListChoice
        label={`Channel of ${label ?? bound.target}`}
        options={Array.from({ length: 17 }, (_, i) => ({
          value: String(i),
          label: i === 0 ? 'any channel' : `channel ${i}`,
        }))}
        value={String(bound.channel)}
        onChange={(channel) => {
          bind({ ...bound, channel: Number(channel) });
        }}
      />
      <ListChoice
        label={`How the control of ${label ?? bound.target} tells`}
        options={CONTROL_WAYS.map((way) => ({
          value: way,
          label: way === 'absolute' ? 'absolute' : `steps, ${way}`,
        }))}
        value={bound.way}
        onChange={(way) => {
          bind({ ...bound, way });
        }}
      />
      <IconButton
        size="small"
        aria-label={`Let go of ${label ?? bound.target}`}
        onClick={() => {
          unbind(bound.target);
        }}
      >
        <X size={14} />
      </IconButton>
    </Box>
  );
}
