import { Box, Button } from '@mui/material';
import { saveToFile } from '../files/save-to-file';
import { download } from '../sounding/bounce';
import { tellError } from '../state/view-store';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';
import { discard, discardBroken, keepAsAnother, keepAsTheSound } from '../unsaved/choose';
import { useUnsaved, type Standing, type UnsavedWork } from '../unsaved/unsaved-work';
import { since } from './since';

const STANDING: Record<Standing, string> = {
  open: 'open in a window',
  waiting: 'is saved when the server answers',
  'saved-elsewhere': 'the sound was saved elsewhere in the meantime',
  deleted: 'the sound was deleted in the meantime',
  refused: 'the server does not take it',
};

function Row({
  title,
  about,
  children,
}: {
  readonly title: string;
  readonly about: readonly string[];
  readonly children: React.ReactNode;
}) {
  return (
    <Box
      component="li"
      sx={{
        display: 'flex',
        alignItems: 'center',
        flexWrap: 'wrap',
        gap: 1,
        borderTop: `1px solid ${sea.hair}`,
        p: '6px 0',
      }}
    >
      <Box sx={{ flex: 1, minWidth: 260 }}>
        <Box sx={{ fontWeight: 600 }}>{title}</Box>
        {about.map((line) => (
          <Box key={line} sx={{ fontSize: TYPE.note, color: sea.ink2 }}>
            {line}
          </Box>
        ))}
      </Box>
      <Box sx={{ display: 'flex', gap: '4px', flexWrap: 'wrap' }}>{children}</Box>
    </Box>
  );
}

const act = (work: () => Promise<void>) => () => {
  work().catch(tellError);
};

function Work({ work }: { readonly work: UnsavedWork }) {
  const { journal, standing, reason, differs } = work;
  const about = [
    `${since(new Date(journal.at).toISOString())} · ${STANDING[standing]}${reason ? `: ${reason}` : ''}`,
    ...(differs ? [`Differs in: ${differs.join(', ')}`] : []),
  ];
  const waits = standing === 'waiting';
  return (
    <Row title={journal.document.name || 'Unnamed'} about={about}>
      {!waits && standing !== 'refused' && (
        <Button size="small" variant="outlined" onClick={act(() => keepAsTheSound(work))}>
          {standing === 'deleted' ? 'Restore with it' : 'Keep'}
        </Button>
      )}
      {!waits && standing !== 'refused' && (
        <Button size="small" variant="outlined" onClick={act(() => keepAsAnother(work))}>
          Keep as a copy
        </Button>
      )}
      <Button size="small" variant="outlined" onClick={act(() => saveToFile(journal.document))}>
        Save to file
      </Button>
      <Button size="small" onClick={act(() => discard(work))}>
        Discard
      </Button>
    </Row>
  );
}

/** Work in this browser that the server does not have, with what can be done about it. */
export function UnsavedPanel() {
  const { works, broken } = useUnsaved();
  const left = works.filter(({ standing }) => standing !== 'open');
  if (left.length + broken.length === 0) return null;
  return (
    <Box
      component="section"
      aria-label="Unsaved work"
      sx={{ border: `1px solid ${sea.short}`, bgcolor: sea.sheet, p: '10px 14px 4px', mb: 2 }}
    >
      <Box component="h2" sx={{ m: '0 0 4px', fontSize: TYPE.title, fontWeight: 600 }}>
        Unsaved work
      </Box>
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {left.map((work) => (
          <Work key={`${work.journal.soundId} ${work.journal.writer}`} work={work} />
        ))}
        {broken.map((each) => (
          <Row
            key={each.key}
            title="Work that cannot be read"
            about={[`${each.reason} It was set aside; the sound itself opens as it was saved.`]}
          >
            <Button
              size="small"
              variant="outlined"
              onClick={() => {
                download('unsaved-work.json', each.text, 'application/json');
              }}
            >
              Save to file
            </Button>
            <Button size="small" onClick={act(() => discardBroken(each))}>
              Discard
            </Button>
          </Row>
        ))}
      </Box>
    </Box>
  );
}
