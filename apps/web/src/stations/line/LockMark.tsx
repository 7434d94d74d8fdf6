import { judgeMeeting, shownGainDb, signed, type Meeting, type Targets } from '@abyssal/core';
import { VERDICTS } from '../../controls/Mark';
import { missedWords } from './note-words';
import { TYPE } from '../../theme/type';

interface LockMarkProps {
  readonly meeting: Meeting;
  readonly targets: Targets;
  readonly x: number;
  readonly y: number;
  readonly wide: boolean;
}

/**
 * How a note stands to one hit of the kick, over the place where they begin to sound together: by mark and,
 * where there is room, by number.
 */
export function LockMark({ meeting, targets, x, y, wide }: LockMarkProps) {
  const { mark, colour } = VERDICTS[judgeMeeting(meeting, targets)];
  const gain = shownGainDb(meeting.lock);
  return (
    <text x={x} y={y} fontSize={TYPE.mark} fill={colour} pointerEvents="none">
      {mark}
      {wide && gain !== null ? ` ${signed(gain)}${missedWords(gain, targets)}` : ''}
    </text>
  );
}
