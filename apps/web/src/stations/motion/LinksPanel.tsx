import { Box, Button } from '@mui/material';
import { memo, useState } from 'react';
import { Panel } from '../../controls/Panel';
import { TargetChooser } from '../../controls/TargetChooser';
import { edit, presentSound, useSound } from '../../state/document-store';
import { tell } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { LinkRow } from './LinkRow';
import { addLink, full, noLink } from '../../state/link-edits';
import { useTraces } from './traces';

/** What a mover or macro moves, how far, and the value as it runs over the loop. */
export const LinksPanel = memo(function LinksPanel({
  moverId,
  title = 'What it moves',
}: {
  readonly moverId: string;
  readonly title?: string;
}) {
  const links = useSound((sound) => sound.links);
  const traces = useTraces();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const mine = links.filter((link) => link.mover === moverId);
  const add = (target: string) => {
    setAnchor(null);
    const why = noLink(presentSound(), moverId, target);
    if (why) return tell(why);
    edit('new link', (draft) => {
      addLink(draft, moverId, target);
    });
  };
  return (
    <Panel
      title={title}
      aside={
        <>
          the value over the loop
          <Button
            variant="outlined"
            onClick={(event) => {
              const why = full(presentSound(), 'links');
              if (why) tell(why);
              else setAnchor(event.currentTarget);
            }}
          >
            Link…
          </Button>
        </>
      }
    >
      <TargetChooser
        taken={mine.map(({ target }) => target)}
        anchor={anchor}
        label="What it moves"
        onChoose={add}
        onClose={() => {
          setAnchor(null);
        }}
      />
      {mine.length === 0 && (
        <Box sx={{ color: sea.ink2, py: 1 }}>It moves nothing yet. Link it to a parameter to hear it.</Box>
      )}
      {mine.map((link) => (
        <LinkRow key={link.id} link={link} values={traces.get(link.target)} />
      ))}
    </Panel>
  );
});
