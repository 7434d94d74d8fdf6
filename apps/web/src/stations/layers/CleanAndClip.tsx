import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { ToggleTitle } from '../../controls/ToggleTitle';
import { edit, useDocument } from '../../state/document-store';

/** The clean path, and the soft clip on what lies above it. */
export function CleanAndClip() {
  const { cleanPath, clip } = useDocument().grit;
  return (
    <Panel
      label="Clean path and clip"
      title={<ToggleTitle label="Clean path" on={cleanPath.on} onToggle={() => { edit('clean path', (draft) => { draft.grit.cleanPath.on = !cleanPath.on; }); }} />}
      aside={<ToggleTitle label="Soft clip" on={clip.on} onToggle={() => { edit('soft clip', (draft) => { draft.grit.clip.on = !clip.on; }); }} />}
    >
      <ParameterRow path={['grit', 'cleanPath', 'frequencyHz']} label="Clean below" disabled={!cleanPath.on} />
      <ParameterRow path={['grit', 'clip', 'driveDb']} of="Clip" disabled={!clip.on} />
      <ParameterRow path={['grit', 'clip', 'levelDb']} of="Clip" disabled={!clip.on} />
    </Panel>
  );
}
