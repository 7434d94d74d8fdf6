import { MACRO_IDS, macroName, MOST_SWITCHES, switchTargets, targetLabel } from '@abyssal/core';
import { Box, Button, IconButton } from '@mui/material';
import { X } from 'lucide-react';
import { memo, useState } from 'react';
import { Choice } from '../../controls/Choice';
import { ListChoice } from '../../controls/ListChoice';
import { NameField } from '../../controls/NameField';
import { Panel } from '../../controls/Panel';
import { ParameterRow } from '../../controls/ParameterRow';
import { edit, useDocument, useSound } from '../../state/document-store';
import { useView } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { LinksPanel } from './LinksPanel';

/** The eight macros as rows. */
export const MacroRows = memo(function MacroRows() {
  const macros = useSound((sound) => sound.macros);
  const links = useSound((sound) => sound.links);
  const chosen = useView((state) => state.moverId);
  return (
    <Panel title="Macros">
      {MACRO_IDS.map((id, index) => {
        const used = links.filter(({ mover }) => mover === id).length + macros[index].switches.length;
        return (
          <Box
            key={id}
            sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) 24px', alignItems: 'center' }}
          >
            <ParameterRow
              path={['macros', index, 'valuePct']}
              label={macroName({ macros }, index)}
              labelWidth={62}
              bare
            />
            <Button
              aria-label={`What ${macroName({ macros }, index)} moves`}
              aria-pressed={chosen === id}
              variant={chosen === id ? 'contained' : 'text'}
              sx={{ minWidth: 24, p: 0, fontSize: TYPE.note }}
              onClick={() => {
                useView.setState({ moverId: id });
              }}
            >
              {used}
            </Button>
          </Box>
        );
      })}
    </Panel>
  );
});

/** A macro: its name, where it stands, what it switches, and what it moves. */
export function MacroPanel({ index }: { readonly index: number }) {
  const document = useDocument();
  const macro = document.macros[index];
  const name = macroName(document, index);
  const [chosen, setChosen] = useState('');
  const targets = [
    ...switchTargets(document),
    ...document.links.map(({ id, target }) => ({
      target: `links.${id}.on`,
      label: `Link to ${targetLabel(document, target) ?? target}`,
    })),
  ].filter(({ target }) => !macro.switches.some((each) => each.target === target));
  const nameOf = new Map(
    [
      ...switchTargets(document),
      ...document.links.map(({ id, target }) => ({
        target: `links.${id}.on`,
        label: `Link to ${targetLabel(document, target) ?? target}`,
      })),
    ].map(({ target, label }) => [target, label]),
  );
  return (
    <>
      <Panel
        label={name}
        title={
          <NameField
            label="Name of the macro"
            value={macro.name}
            placeholder={`Macro ${index + 1}`}
            mayBeEmpty
            onChange={(next) => {
              edit(`name ${next}`, (draft) => {
                draft.macros[index].name = next;
              });
            }}
          />
        }
        aside="moves what is linked to it, each over a range of its own"
      >
        <ParameterRow path={['macros', index, 'valuePct']} of={name} label="Stands at" />
        {macro.switches.map((each, s) => (
          <Box
            key={each.target}
            sx={{
              display: 'grid',
              gridTemplateColumns: 'minmax(0, 1fr) auto 24px',
              alignItems: 'center',
              gap: 1,
              borderTop: `1px solid ${sea.hair}`,
              py: '2px',
            }}
          >
            <ParameterRow
              path={['macros', index, 'switches', s, 'fromPct']}
              label={`${nameOf.get(each.target) ?? each.target} from`}
              labelWidth={150}
              bare
            />
            <Choice
              label={`${nameOf.get(each.target) ?? each.target} is switched`}
              options={['on', 'off'] as const}
              value={each.on ? 'on' : 'off'}
              onChange={(to) => {
                edit(`${name} · switch`, (draft) => {
                  draft.macros[index].switches[s].on = to === 'on';
                });
              }}
            />
            <IconButton
              size="small"
              aria-label={`No longer switch ${nameOf.get(each.target) ?? each.target}`}
              onClick={() => {
                edit(`${name} · switch`, (draft) => {
                  draft.macros[index].switches.splice(s, 1);
                });
              }}
            >
              <X size={14} />
            </IconButton>
          </Box>
        ))}
        {macro.switches.length < MOST_SWITCHES && targets.length > 0 && (
          <Box sx={{ display: 'flex', gap: 1, mt: '6px', alignItems: 'center' }}>
            <ListChoice
              label="What it switches"
              grow
              options={[
                { value: '', label: 'Switch something on or off past a value…' },
                ...targets.map(({ target, label }) => ({ value: target, label })),
              ]}
              value={chosen}
              onChange={(target) => {
                setChosen('');
                if (target !== '')
                  edit(`${name} · switch`, (draft) => {
                    draft.macros[index].switches.push({ target, fromPct: 50, on: true });
                  });
              }}
            />
          </Box>
        )}
      </Panel>
      <LinksPanel moverId={MACRO_IDS[index]} title={`What ${name} moves`} />
    </>
  );
}
