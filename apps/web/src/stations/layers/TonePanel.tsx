import type { ToneKind } from '@abyssal/core';
import { Box, IconButton, Menu, MenuItem, ToggleButton } from '@mui/material';
import { MoreHorizontal } from 'lucide-react';
import { memo, useState, type ComponentType } from 'react';
import { Choice } from '../../controls/Choice';
import { Panel } from '../../controls/Panel';
import { edit, useDocumentStore, useSound } from '../../state/document-store';
import { toggleSolo } from '../../state/solo';
import { tell, useView } from '../../state/view-store';
import { withKind } from './layer-edits';
import { FmEditor } from './tones/FmEditor';
import { FramesEditor } from './tones/FramesEditor';
import { HarmonicsEditor } from './tones/HarmonicsEditor';
import { NoiseEditor } from './tones/NoiseEditor';
import { SampleEditor } from './tones/SampleEditor';
import { ShapeEditor } from './tones/ShapeEditor';
import { ToneCopies } from './tones/ToneCopies';
import { ToneTuning } from './tones/ToneTuning';
import type { ToneProps } from './tones/use-tone';
import { VowelEditor } from './tones/VowelEditor';

interface ToneView {
  readonly label: string;
  readonly Editor: ComponentType<ToneProps>;
}

/** What each kind of tone is called, and where it is set up; one without a drawing has `SourceRows`. */
const TONES = {
  shape: { label: 'Shape', Editor: ShapeEditor },
  harmonics: { label: 'Harmonics', Editor: HarmonicsEditor },
  frames: { label: 'Frames', Editor: FramesEditor },
  fm: { label: 'FM', Editor: FmEditor },
  vowel: { label: 'Vowel', Editor: VowelEditor },
  noise: { label: 'Noise', Editor: NoiseEditor },
  sample: { label: 'Sample', Editor: SampleEditor },
} satisfies Record<ToneKind, ToneView>;
const KINDS = Object.entries(TONES).map(([value, { label }]) => ({ value: value as ToneKind, label }));

/** One of the three tones of a layer: what makes it, how it is tuned, and its copies. */
export const TonePanel = memo(function TonePanel({ index }: { readonly index: number }) {
  const t = useView((state) => state.tone);
  const solo = useView((state) => state.solo);
  const id = useSound(({ layers }) => layers[index].id);
  const layerName = useSound(({ layers }) => layers[index].name);
  const kind = useSound(({ layers }) => layers[index].tones[t].source.kind);
  const on = useSound(({ layers }) => layers[index].tones.map((tone) => (tone.on ? '1' : '0')).join(''));
  const copied = useView((state) => state.copiedTone);
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [part, setPart] = useState<'tuning' | 'copies'>('tuning');
  const of = `${layerName} tone ${t + 1}`;
  const name = `${id}.${t}`;
  const changeKind = (next: ToneKind) => {
    // What is kept of the kind that is left must outlive the edit, as a draft does not.
    const tone = withKind(useDocumentStore.getState().document!.layers[index].tones[t], next, name);
    edit(`${of} · kind ${next}`, (draft) => {
      draft.layers[index].tones[t] = tone;
    });
  };
  const { Editor }: ToneView = TONES[kind];
  return (
    <Panel
      label="Tone"
      title={
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
          <Choice
            label="Tone"
            options={[0, 1, 2].map((n) => ({
              value: String(n),
              label: `${n + 1}${on[n] === '1' ? '' : ' ·'}`,
            }))}
            value={String(t)}
            onChange={(value) => {
              useView.setState({ tone: Number(value) });
            }}
          />
          <ToggleButton
            value="on"
            size="small"
            selected={on[t] === '1'}
            onChange={() => {
              edit(`${of} ${on[t] === '1' ? 'off' : 'on'}`, (draft) => {
                draft.layers[index].tones[t].on = on[t] !== '1';
              });
            }}
            aria-label={`Tone ${t + 1} on`}
          >
            {on[t] === '1' ? 'on' : 'off'}
          </ToggleButton>
          <ToggleButton
            value="solo"
            size="small"
            selected={solo.includes(name)}
            onChange={() => {
              useView.setState({ solo: toggleSolo(solo, name) });
            }}
            aria-label={`Solo tone ${t + 1}`}
          >
            solo
          </ToggleButton>
          <IconButton
            size="small"
            aria-label={`More for tone ${t + 1}`}
            aria-haspopup="menu"
            onClick={(event) => {
              setMenu(event.currentTarget);
            }}
          >
            <MoreHorizontal size={16} />
          </IconButton>
          <Menu
            anchorEl={menu}
            open={menu !== null}
            onClose={() => {
              setMenu(null);
            }}
          >
            <MenuItem
              onClick={() => {
                setMenu(null);
                useView.setState({
                  copiedTone: useDocumentStore.getState().document!.layers[index].tones[t],
                });
                tell(
                  `Tone ${t + 1} of ${layerName} is copied; paste it over another tone, here or in another sound.`,
                );
              }}
            >
              Copy tone
            </MenuItem>
            <MenuItem
              disabled={!copied}
              onClick={() => {
                setMenu(null);
                if (copied)
                  edit(`paste over ${of}`, (draft) => {
                    draft.layers[index].tones[t] = { ...structuredClone(copied), on: true };
                  });
              }}
            >
              Paste over this tone
            </MenuItem>
          </Menu>
        </Box>
      }
    >
      <Box
        sx={{
          mb: '6px',
          '& .MuiToggleButtonGroup-root': { display: 'flex' },
          '& .MuiToggleButton-root': { flex: '1 0 auto', px: '4px' },
        }}
      >
        <Choice label="Kind of tone" options={KINDS} value={kind} onChange={changeKind} />
      </Box>
      <Box sx={{ opacity: on[t] === '1' ? 1 : 0.5 }}>
        <Editor key={`${name} ${kind}`} index={index} tone={t} />
        <Box sx={{ display: 'flex', m: '6px 0 2px' }}>
          <Choice
            label="Part of the tone"
            options={[
              { value: 'tuning', label: 'Tuning' },
              { value: 'copies', label: 'Copies' },
            ]}
            value={part}
            onChange={setPart}
          />
        </Box>
        {part === 'tuning' ? <ToneTuning index={index} tone={t} /> : <ToneCopies index={index} tone={t} />}
      </Box>
    </Panel>
  );
});
