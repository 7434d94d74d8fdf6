import { plain, signed, withTailAt } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { Panel } from '../../controls/Panel';
import { Reading } from '../../controls/Sounding';
import { useSounding } from '../../sounding/sounding-store';
import { edit, useSound } from '../../state/document-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { rootNear, tailOnRoot } from './kick-edits';

/** The kick's own figures. */
export function KickFiguresPanel() {
  const kick = useSound((sound) => sound.kick);
  const found = useSounding(({ shown }) => shown?.kick);
  const of = useSounding((state) => state.of);
  const tail = found?.tail ?? null;
  // A tail is tuned where it stands still and is more than a cent off.
  const hz = tail?.steady ? tail.hz : null;
  const offRoot =
    hz !== null &&
    of &&
    Math.abs(1200 * Math.log2(rootNear(of, hz) / hz)) > 1 &&
    withTailAt(of, hz, rootNear(of, hz))
      ? hz
      : null;
  const tune = (tailHz: number) => {
    const tuned = of && tailOnRoot(of, tailHz);
    if (tuned)
      edit('tail on the root', (draft) => {
        draft.kick = tuned;
      });
  };
  return (
    <Panel
      title="Kick figures"
      aside={
        offRoot !== null && (
          <Button
            size="small"
            variant="outlined"
            onClick={() => {
              tune(offRoot);
            }}
          >
            Tune to the root
          </Button>
        )
      }
    >
      {!found ? (
        <Box sx={{ color: sea.ink2, fontSize: TYPE.control }}>Measuring the kick.</Box>
      ) : (
        <>
          <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(4, auto)', gap: 1 }}>
            <Reading label="tail settles at" value={tail ? tail.hz.toFixed(1) : '–'} unit="Hz" />
            <Reading
              label="nearest note"
              value={tail ? tail.note : '–'}
              unit={tail ? `${signed(tail.cents, 0)} ct` : undefined}
            />
            <Reading label="tail’s phase" value={tail ? plain(tail.phaseDeg, 0) : '–'} unit="°" />
            <Reading
              label="length"
              value={found.lengthS === null ? '–' : Math.round(1000 * found.lengthS)}
              unit="ms"
            />
          </Box>
          <Box sx={{ fontSize: TYPE.control, color: sea.ink2, mt: '4px' }}>
            {!kick.on
              ? 'The kick is switched off.'
              : found.lengthS === null
                ? 'The kick is silent: there is nothing to lock to.'
                : !tail
                  ? 'The kick has no pitched tail: it is too short, or has nothing below 400 Hz.'
                  : tail.steady
                    ? 'The tail holds its pitch: a bass can lock to it.'
                    : 'The tail is still falling: there is no steady pitch to lock to.'}
          </Box>
        </>
      )}
    </Panel>
  );
}
