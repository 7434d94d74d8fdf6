import { barBeat, BEATS_PER_BAR, TICKS_PER_BEAT } from '@abyssal/core';
import { Box, Button } from '@mui/material';
import { ParameterRow } from '../../controls/ParameterRow';
import { Panel } from '../../controls/Panel';
import { edit, useSound } from '../../state/document-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { startHits, STARTS } from './kick-edits';

const STEPS_PER_BEAT = 4;
const STEP_TICKS = TICKS_PER_BEAT / STEPS_PER_BEAT;
const EVEN = 108;

/** On which sixteenths of the loop the kick falls. Arrow keys up and down change how hard. */
export function KickBeats() {
  const kick = useSound((sound) => sound.kick);
  const ground = useSound((sound) => sound.ground);
  const steps = ground.bars * BEATS_PER_BAR * STEPS_PER_BEAT;
  const hitAt = (step: number) => kick.hits.find(({ tick }) => Math.floor(tick / STEP_TICKS) === step);
  const toggle = (step: number) => {
    edit('kick beats', (draft) => {
      const at = draft.kick.hits.findIndex(({ tick }) => Math.floor(tick / STEP_TICKS) === step);
      if (at >= 0) draft.kick.hits.splice(at, 1);
      else {
        draft.kick.hits.push({ tick: step * STEP_TICKS, velocity: EVEN });
        draft.kick.hits.sort((a, b) => a.tick - b.tick);
      }
    });
  };
  const harder = (step: number, by: number) => {
    edit(
      'kick velocity',
      (draft) => {
        const hit = draft.kick.hits.find(({ tick }) => Math.floor(tick / STEP_TICKS) === step);
        if (hit) hit.velocity = Math.min(127, Math.max(1, hit.velocity + by));
      },
      `kick velocity ${step}`,
    );
  };
  return (
    <Panel
      title="Beats"
      label="Kick beats"
      aside={
        <>
          <span>a sixteenth each; arrows up and down for how hard</span>
          {STARTS.map(({ name, beats }) => (
            <Button
              key={name}
              size="small"
              variant="outlined"
              onClick={() => {
                edit(`kick ${name}`, (draft) => {
                  draft.kick.hits = startHits(beats, ground.bars);
                });
              }}
            >
              {name}
            </Button>
          ))}
          <Box sx={{ width: 220 }}>
            <ParameterRow path={['kick', 'swingPct']} of="Kick" labelWidth={48} linkRoom={false} />
          </Box>
        </>
      }
    >
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: 'repeat(16, minmax(24px, 1fr))',
          gap: '2px',
          rowGap: '6px',
          '@media (min-width: 1500px)': { gridTemplateColumns: `repeat(${Math.min(steps, 32)}, 1fr)` },
        }}
      >
        {Array.from({ length: steps }, (_, step) => {
          const hit = hitAt(step);
          const name = `${barBeat((step * TICKS_PER_BEAT) / STEPS_PER_BEAT)}${step % STEPS_PER_BEAT === 0 ? '' : `, sixteenth ${(step % STEPS_PER_BEAT) + 1}`}`;
          return (
            <Box
              key={step}
              component="button"
              type="button"
              aria-pressed={hit !== undefined}
              aria-label={`Kick at ${name}${hit ? `, velocity ${hit.velocity}` : ''}`}
              onClick={() => {
                toggle(step);
              }}
              onKeyDown={(event) => {
                const by = { ArrowUp: 4, ArrowDown: -4 }[event.key];
                if (by === undefined || !hit) return;
                event.preventDefault();
                harder(step, by);
              }}
              sx={{
                position: 'relative',
                height: 34,
                p: 0,
                border: 0,
                borderLeft: step % STEPS_PER_BEAT === 0 ? `2px solid ${sea.rule}` : `1px solid ${sea.hair}`,
                bgcolor: step % (2 * STEPS_PER_BEAT) < STEPS_PER_BEAT ? sea.tint1 : sea.paper,
                cursor: 'pointer',
                font: 'inherit',
                fontSize: TYPE.mark,
                color: sea.ink2,
              }}
            >
              {hit && (
                <Box
                  component="span"
                  sx={{
                    position: 'absolute',
                    left: 2,
                    right: 2,
                    bottom: 0,
                    height: `${Math.round((hit.velocity / 127) * 100)}%`,
                    bgcolor: sea.kick,
                    clipPath: 'polygon(50% 0, 100% 100%, 0 100%)',
                  }}
                />
              )}
            </Box>
          );
        })}
      </Box>
    </Panel>
  );
}
