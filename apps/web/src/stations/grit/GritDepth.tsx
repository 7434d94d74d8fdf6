import {
  bandName,
  noteToHz,
  numbersOfUnits,
  parameter,
  unitById,
  unitKindOf,
  unitName,
  type GritUnit,
  type SoundDocument,
} from '@abyssal/core';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useLiveUnit } from '../../chains/use-live-unit';
import { DepthHandle } from '../../depth/DepthHandle';
import { BED_HZ, SURFACE_HZ, type DepthPlot } from '../../depth/depth-plot';
import { moveCrossover } from '../../state/band-moves';
import { edit, useSound } from '../../state/document-store';
import { chainAt, pathOf, setAt } from '../../state/path';
import { useView } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';

const DEPTHS = Array.from({ length: 240 }, (_, i) => BED_HZ * (SURFACE_HZ / BED_HZ) ** (i / 239));
/** Numbers that say where in depth a unit acts. */
const WHERE = /(^|\.)(cutoffHz|hz|pivotHz|centreHz)$/;

const hertz = (hz: number) => (hz < 1000 ? `${Math.round(hz)} Hz` : `${(hz / 1000).toPrecision(3)} kHz`);

/** What Grit brings to the depth chart: the crossovers, and the response of the unit that is looked at. */
export function GritDepth(plot: DepthPlot) {
  const bands = useSound((sound) => sound.grit.bands);
  const wanted = useView((state) => state.unitId);
  const unit = useSound((sound) => {
    const found = wanted === null ? null : unitById(sound, wanted);
    return found && found.place.in !== 'layer' && unitKindOf(found.unit.kind).response ? found.unit : null;
  });
  return (
    <>
      {bands.slice(1).map((band, b) => (
        <Crossover key={band.id} {...plot} index={b + 1} hz={band.fromHz} />
      ))}
      {unit && <Response {...plot} unit={unit} />}
    </>
  );
}

function Crossover({
  y,
  hzAt,
  left,
  right,
  index,
  hz,
}: DepthPlot & { readonly index: number; readonly hz: number }) {
  const name = useSound((sound) => bandName(sound, index));
  const at = y(Math.min(SURFACE_HZ, hz));
  return (
    <DepthHandle
      label={`Crossover under ${name}`}
      row={parameter('grit.bands.*.fromHz')}
      value={hz}
      hzAt={hzAt}
      y={at}
      onChange={(next) => {
        moveCrossover(index, next);
      }}
    >
      <line
        x1={left}
        x2={right + 36}
        y1={at}
        y2={at}
        stroke={sea.note}
        strokeDasharray="5 3"
        strokeWidth={1.2}
      />
      <rect x={right - 56} y={at - 16} width={60} height={15} fill={sea.sheet} fillOpacity={0.85} />
      <text x={right} y={at - 4} textAnchor="end" fontSize={TYPE.mark} fill={sea.note}>
        {hertz(hz)}
      </text>
    </DepthHandle>
  );
}

/** Where in depth a unit acts, as far as it does: sections of an equaliser that are off are left out. */
const handlesOf = (unit: GritUnit) =>
  numbersOfUnits([unit]).filter(({ field }) => {
    if (!WHERE.test(field)) return false;
    const section = /\.sections\.(\d+)\./.exec(field);
    return !section || !('sections' in unit) || unit.sections[Number(section[1])].on;
  });

/** The response of a unit upward by depth, with a handle where each of its parts acts. */
function Response({ y, hzAt, left, right, unit }: DepthPlot & { readonly unit: GritUnit }) {
  const live = useLiveUnit(unit);
  const name = useSound((sound) => nameOf(sound, unit));
  const note = useSound(({ line: { notes }, ground }) => noteToHz(notes[0]?.pitch ?? 29, ground.a4Hz));
  const dbAt = unitKindOf(unit.kind).response!(live, note);
  const x = scaleLinear().domain([-36, 24]).range([left, right]).clamp(true);
  const path =
    line<number>()
      .y((hz) => y(hz))
      .x((hz) => x(dbAt(hz)))(DEPTHS) ?? '';
  return (
    <>
      <path d={path} fill="none" stroke={sea.ink} strokeWidth={1.6} opacity={unit.on ? 1 : 0.4} />
      {handlesOf(unit).map(({ field, row, value }) => {
        const section = /\.sections\.(\d+)\./.exec(field)?.[1];
        const at = y(Math.min(SURFACE_HZ, value));
        const label = `${name}${section ? ` ${Number(section) + 1}` : ''} at`;
        return (
          <DepthHandle
            key={field}
            label={label}
            row={row}
            value={value}
            hzAt={hzAt}
            y={at}
            onChange={(hz) => {
              edit(
                `${name} · ${row.label.toLowerCase()}`,
                (draft) => {
                  const place = pathOf(draft, field);
                  if (place) setAt(draft, place, hz);
                },
                field,
              );
            }}
          >
            <circle cx={x(dbAt(value))} cy={at} r={6} fill={sea.sheet} stroke={sea.ink} strokeWidth={1.6} />
            {section && (
              <text x={x(dbAt(value))} y={at + 4} textAnchor="middle" fontSize={10} fill={sea.ink}>
                {Number(section) + 1}
              </text>
            )}
          </DepthHandle>
        );
      })}
    </>
  );
}

function nameOf(sound: SoundDocument, unit: GritUnit): string {
  const found = unitById(sound, unit.id);
  return found ? unitName(chainAt(sound, found.place), found.unit) : '';
}
