import type { Verdict } from '@abyssal/core';
import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';

/** How each verdict is told: by a mark, in words and in a colour, never by the colour alone. */
export const VERDICTS: Readonly<
  Record<Verdict, { readonly mark: string; readonly words: string; readonly colour: string }>
> = {
  holds: { mark: '●', words: 'holds', colour: sea.holds },
  watch: { mark: '◐', words: 'watch', colour: sea.watch },
  'falls short': { mark: '✕', words: 'falls short', colour: sea.short },
  unknown: { mark: '–', words: 'cannot tell', colour: sea.ink2 },
};

/** A sentence with its mark: about something to watch, unless it says otherwise. */
export function ToldText({
  verdict = 'watch',
  children,
}: {
  readonly verdict?: Verdict;
  readonly children: ReactNode;
}) {
  const { mark, colour } = VERDICTS[verdict];
  return (
    <Box role="status" sx={{ fontSize: TYPE.control, lineHeight: 1.35, color: colour }}>
      <span aria-hidden>{mark}</span> {children}
    </Box>
  );
}
