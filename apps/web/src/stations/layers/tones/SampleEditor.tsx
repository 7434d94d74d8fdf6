import { MOST_ZONES, noteName, parameter, plainText, readWavLoop } from '@abyssal/core';
import { Box, IconButton } from '@mui/material';
import { X } from 'lucide-react';
import { useState, type DragEvent } from 'react';
import { Choice } from '../../../controls/Choice';
import { FileButton, WAV_FILES } from '../../../controls/FileButton';
import { ValueField } from '../../../controls/ValueField';
import { useSound } from '../../../state/document-store';
import { takeWav } from '../../../state/recordings';
import { tellError } from '../../../state/view-store';
import { sea } from '../../../theme/sea';
import { TYPE } from '../../../theme/type';
import { SourceRows } from './SourceRows';
import { useTone, type ToneProps } from './use-tone';

const FIELDS = ['rootPitch', 'lowPitch', 'highPitch', 'lowVelocity', 'highVelocity'] as const;
const row = (field: (typeof FIELDS)[number]) => parameter(`layers.*.tones.*.source.sample.zones.*.${field}`);

/** WAVs over ranges of notes and velocities; several that fit the same note take turns. */
export function SampleEditor(props: ToneProps) {
  const { source, change } = useTone<'sample'>(props);
  const a4Hz = useSound((sound) => sound.ground.a4Hz);
  const [busy, setBusy] = useState(false);
  const take = async (files: readonly File[]) => {
    setBusy(true);
    for (const file of files) {
      try {
        const asset = await takeWav(file);
        const found = readWavLoop(new Uint8Array(await file.arrayBuffer()));
        change('add a WAV', (draft) => {
          if (draft.zones.length < MOST_ZONES)
            draft.zones.push({
              asset,
              fileName: plainText(file.name, 200),
              rootPitch: found.rootPitch ?? 36,
              lowPitch: 0,
              highPitch: 127,
              lowVelocity: 1,
              highVelocity: 127,
              loop: found.loop,
            });
        });
      } catch (error) {
        tellError(new Error(`${file.name}: ${error instanceof Error ? error.message : String(error)}`));
      }
    }
    setBusy(false);
  };
  return (
    <Box
      onDragOver={(event: DragEvent) => {
        event.preventDefault();
      }}
      onDrop={(event: DragEvent) => {
        event.preventDefault();
        void take([...event.dataTransfer.files]);
      }}
    >
      <Box sx={{ bgcolor: sea.tint1, minHeight: 92, maxHeight: 118, overflowY: 'auto', mb: '4px' }}>
        {source.zones.length === 0 ? (
          <Box sx={{ p: 1.5, fontSize: TYPE.control, color: sea.ink2 }}>
            Drop WAVs here, or choose them. Several on the same notes take turns.
          </Box>
        ) : (
          <Box
            component="table"
            sx={{
              width: '100%',
              borderCollapse: 'collapse',
              fontSize: TYPE.mark,
              '& td, & th': { p: '1px 3px', textAlign: 'left', fontWeight: 400 },
              '& th': { color: sea.ink2 },
            }}
          >
            <thead>
              <tr>
                <th>WAV</th>
                <th>root</th>
                <th>from</th>
                <th>to</th>
                <th>vel. from</th>
                <th>to</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {source.zones.map((zone, z) => (
                <tr key={z}>
                  <td
                    title={`${zone.fileName}${zone.loop ? `, loops ${zone.loop.from} to ${zone.loop.to}` : ''}`}
                    style={{
                      maxWidth: 84,
                      overflow: 'hidden',
                      textOverflow: 'ellipsis',
                      whiteSpace: 'nowrap',
                    }}
                  >
                    {zone.fileName}
                  </td>
                  {FIELDS.map((field) => (
                    <td key={field}>
                      <ValueField
                        row={row(field)}
                        label={`${zone.fileName} ${row(field).label.toLowerCase()}`}
                        value={zone[field]}
                        a4Hz={a4Hz}
                        width={36}
                        onChange={(value) => {
                          change(row(field).label.toLowerCase(), (draft) => {
                            const each = draft.zones[z];
                            each[field] = value;
                            // A range keeps its order: the other end is taken along.
                            if (field === 'lowPitch') each.highPitch = Math.max(each.highPitch, value);
                            else if (field === 'highPitch') each.lowPitch = Math.min(each.lowPitch, value);
                            else if (field === 'lowVelocity')
                              each.highVelocity = Math.max(each.highVelocity, value);
                            else if (field === 'highVelocity')
                              each.lowVelocity = Math.min(each.lowVelocity, value);
                          });
                        }}
                      />
                    </td>
                  ))}
                  <td>
                    <IconButton
                      size="small"
                      aria-label={`Remove ${zone.fileName} (${noteName(zone.rootPitch)})`}
                      onClick={() => {
                        change('remove a WAV', (draft) => {
                          draft.zones.splice(z, 1);
                        });
                      }}
                    >
                      <X size={13} />
                    </IconButton>
                  </td>
                </tr>
              ))}
            </tbody>
          </Box>
        )}
      </Box>
      <Box sx={{ display: 'flex', gap: 1, mb: '4px', '& > button': { flex: 'none' } }}>
        <FileButton
          size="small"
          label="WAVs for the tone"
          accept={WAV_FILES}
          multiple
          disabled={busy || source.zones.length >= MOST_ZONES}
          onFiles={(files) => {
            void take(files);
          }}
        >
          {busy ? 'reading…' : 'WAV…'}
        </FileButton>
        <Choice
          label="Order"
          options={['in turn', 'at random']}
          value={source.order}
          onChange={(order) => {
            change('order', (draft) => {
              draft.order = order;
            });
          }}
        />
        <Choice
          label="Loop"
          options={[
            { value: 'on', label: 'loops' },
            { value: 'off', label: 'once' },
          ]}
          value={source.loops ? 'on' : 'off'}
          onChange={(loops) => {
            change('loop', (draft) => {
              draft.loops = loops === 'on';
            });
          }}
        />
      </Box>
      <SourceRows {...props} />
    </Box>
  );
}
