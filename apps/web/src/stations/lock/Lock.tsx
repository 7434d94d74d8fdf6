import { Box } from '@mui/material';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { Columns } from '../../controls/Columns';
import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { lookAtLockFirst, useSounding } from '../../sounding/sounding-store';
import { useDocument } from '../../state/document-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { Further } from './Further';
import { meetingsOf, worstPlace } from './met';
import { Overlay } from './Overlay';
import { RoseDial } from './Rose';
import { Standing } from './Standing';
import { turnTo } from './turn-to';
import { useHitStanding } from './hit-standing';
import { emptyWords, noRoseWords } from './words';

/** How the sound sits with the kick, hit by hit. */
export function LockStation() {
  const document = useDocument();
  const look = useSounding((state) => state.look);
  const roses = useSounding((state) => state.roses);
  const fitLows = useSounding((state) => state.fitLows);
  const [chosen, setChosen] = useState<{ readonly index: number; readonly place: number } | null>(null);
  const [drawn, setDrawn] = useState<string | null>(null);
  useEffect(lookAtLockFirst, []);
  const { lock } = document;
  const notes = look?.notes;
  const met = useMemo(() => meetingsOf(notes ?? []), [notes]);
  const sought =
    chosen === null
      ? -1
      : met.findIndex(({ index, place }) => index === chosen.index && place === chosen.place);
  const at = sought < 0 ? worstPlace(met) : sought;
  const present = at < 0 ? null : met[at];
  const standing = useHitStanding(met, present);
  const { measured, rose, best, free, from } = standing;
  // The bearing shown runs ahead of what was measured by what was turned since.
  const since = lock.turnDeg - from.turnDeg;
  const oneWave = document.kick.on && document.kick.shared;
  const choose = useCallback((index: number, place: number) => {
    setChosen({ index, place });
  }, []);
  const step = useCallback(
    (by: number) => {
      const next = met[(at + by + met.length) % met.length];
      choose(next.index, next.place);
    },
    [met, at, choose],
  );
  const after = drawn === null ? null : (fitLows.get(drawn) ?? null);

  return (
    <Box
      sx={{ display: 'grid', gap: '10px' }}
      aria-busy={look !== null && roses === null}
      data-station="lock"
    >
      <Overlay
        present={present}
        after={after}
        onStep={met.length < 2 ? null : step}
        empty={emptyWords(document, look !== null)}
      />
      <Columns of="minmax(0, 3fr) minmax(0, 4fr)">
        <Panel title="Phase bearing" aside={free ? 'its phase runs free' : 'drag to turn the bass'}>
          <RoseDial
            rose={rose}
            measuredDeg={measured?.bearingDeg ?? null}
            since={since}
            bestTurnDeg={best?.turnDeg ?? null}
            reason={noRoseWords(document, look !== null, present, rose)}
            onTurn={(by) => {
              // The hit that is looked at stays while the bass is turned, though another may be the worst by
              // then.
              if (present) choose(present.index, present.place);
              turnTo(lock.turnDeg + by, 'turn');
            }}
          />
          <ParameterRow path={['lock', 'turnDeg']} linkRoom={false} labelWidth={52} />
          <ParameterRow path={['lock', 'nudgeMs']} linkRoom={false} labelWidth={52} disabled={oneWave} />
          {oneWave && (
            <Box sx={{ fontSize: TYPE.note, color: sea.ink2 }}>
              With one oscillator for both, kick and bass cannot drift apart: there is nothing to nudge.
            </Box>
          )}
        </Panel>
        <Box sx={{ display: 'grid', gap: '10px' }}>
          <Standing standing={standing} />
          <Further met={met} chosen={present} onChoose={choose} drawn={drawn} onDraw={setDrawn} />
        </Box>
      </Columns>
    </Box>
  );
}
