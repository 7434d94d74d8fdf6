import { formantsOf, MOST_VOWELS, SPEAKERS, VOWELS } from '@abyssal/core';
import { Box, IconButton } from '@mui/material';
import { scaleLog } from 'd3-scale';
import { Minus, Plus } from 'lucide-react';
import { Choice } from '../../../controls/Choice';
import { ListChoice } from '../../../controls/ListChoice';
import { sea } from '../../../theme/sea';
import { TYPE } from '../../../theme/type';
import { NUMERALS } from '../../../theme/theme';
import { SourceRows } from './SourceRows';
import { useTone, type ToneProps } from './use-tone';

const WIDTH = 350;
const HEIGHT = 116;

/**
 * A voice on its way between vowels, drawn where phoneticians draw it: the second formant to the left, the
 * first downward.
 */
export function VowelEditor(props: ToneProps) {
  const { source, change } = useTone<'vowel'>(props);
  const x = scaleLog()
    .domain([3600, 600])
    .range([14, WIDTH - 14]);
  const y = scaleLog()
    .domain([230, 1150])
    .range([12, HEIGHT - 10]);
  const point = (vowel: (typeof VOWELS)[number]) => {
    const [first, second] = formantsOf(source.speaker, vowel);
    return [x(second), y(first)] as const;
  };
  const way = source.way.map(point);
  const place = (source.positionPct / 100) * (way.length - 1);
  const stop = Math.min(way.length - 2, Math.floor(place));
  const here = way[stop].map((from, i) => from + (way[stop + 1][i] - from) * (place - stop));
  return (
    <>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', mb: '4px' }}>
        <Choice
          label="Voice type"
          options={SPEAKERS}
          value={source.speaker}
          onChange={(speaker) => {
            change('voice', (draft) => {
              draft.speaker = speaker;
            });
          }}
        />
        <Box sx={{ display: 'flex', alignItems: 'center' }}>
          <IconButton
            size="small"
            aria-label="Fewer vowels"
            disabled={source.way.length <= 2}
            onClick={() => {
              change('fewer vowels', (draft) => {
                draft.way.pop();
              });
            }}
          >
            <Minus size={14} />
          </IconButton>
          <IconButton
            size="small"
            aria-label="More vowels"
            disabled={source.way.length >= MOST_VOWELS}
            onClick={() => {
              change('more vowels', (draft) => {
                draft.way.push(VOWELS[(VOWELS.indexOf(draft.way[draft.way.length - 1]) + 3) % VOWELS.length]);
              });
            }}
          >
            <Plus size={14} />
          </IconButton>
        </Box>
      </Box>
      <Box
        component="svg"
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        width="100%"
        role="img"
        aria-label={`The vowels in order: ${source.way.join(', ')}; at ${Math.round(source.positionPct)} %`}
        sx={{ bgcolor: sea.tint1, display: 'block' }}
      >
        {VOWELS.map((vowel) => {
          const [px, py] = point(vowel);
          return (
            <text
              key={vowel}
              x={px}
              y={py + 4}
              fontSize={TYPE.body}
              textAnchor="middle"
              fill={source.way.includes(vowel) ? sea.ink : sea.ink2}
              fontFamily={NUMERALS}
              fontStyle="italic"
            >
              {vowel}
            </text>
          );
        })}
        <path
          d={way.map(([px, py], i) => `${i === 0 ? 'M' : 'L'}${px} ${py}`).join('')}
          fill="none"
          stroke={sea.tint5}
          strokeWidth={1.4}
          strokeDasharray="4 3"
        />
        <circle cx={here[0]} cy={here[1]} r={6} fill={sea.sheet} stroke={sea.note} strokeWidth={2} />
      </Box>
      <Box sx={{ display: 'flex', gap: '4px', m: '4px 0', flexWrap: 'wrap' }}>
        {source.way.map((vowel, i) => (
          <ListChoice
            key={i}
            label={`Vowel ${i + 1}`}
            options={VOWELS}
            value={vowel}
            onChange={(next) => {
              change('vowel', (draft) => {
                draft.way[i] = next;
              });
            }}
          />
        ))}
      </Box>
      <SourceRows {...props} />
    </>
  );
}
