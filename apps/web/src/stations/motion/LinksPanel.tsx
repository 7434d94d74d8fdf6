import { Box, Button } from '@mui/material';
import { useState } from 'react';
import { Panel } from '../../controls/Panel';
import { TargetChooser } from '../../controls/TargetChooser';
import { edit, useDocument } from '../../state/document-store';
import { tell } from '../../state/view-store';
import { cleanLink } from '@abyssal/core';
import { sea } from '../../theme/sea';
import { LinkRow } from './LinkRow';
import { addLink, circleOf, full } from '../../state/mover-edits';
import { useTraces } from './traces';

/** What a mover or macro moves, how far, and the value as it runs over the loop. */
export function LinksPanel({
  moverId,
  title = 'What it moves',
}: {
  readonly moverId: string;
  readonly title?: string;
}) {
  const document = useDocument();
  const traces = useTraces();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const mine = document.links.filter((link) => link.mover === moverId);
  const add = (target: string) => {
    setAnchor(null);
    const trial = cleanLink({ id: 'trial', mover: moverId, target });
    const circle = circleOf(document, [...document.links, trial]);
    if (circle) return tell(circle);
    edit('new link', (draft) => {
      // What lies round a value is heard of a key both ways.
      const key = document.movers.some((mover) => mover.id === moverId && mover.kind === 'key');
      addLink(draft, moverId, target, key ? { way: 'both ways' } : {});
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
              const why = full(document, 'links');
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
        document={document}
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
        <LinkRow key={link.id} document={document} link={link} values={traces.get(link.target)} />
      ))}
    </Panel>
  );
}
