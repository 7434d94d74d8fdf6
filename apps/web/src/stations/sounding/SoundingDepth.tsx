import { responseDb } from '@abyssal/core';
import { useMemo } from 'react';
import { polygon, polyline } from '../../charts/polyline';
import { BED_HZ, SURFACE_HZ, type DepthPlot } from '../../depth/depth-plot';
import { useSounding } from '../../sounding/sounding-store';
import { useView } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';
import { heardColumns, leastHeard } from './heard-map';
import { usePicked } from './picked';

const DEPTHS = Array.from({ length: 160 }, (_, i) => BED_HZ * (SURFACE_HZ / BED_HZ) ** (i / 159));
/** What is lowered by so much is cut off across the whole chart, dB. */
const WHOLE_DB = 40;

/** What a system cuts off: the one that is heard through, else the one that is looked at. */
export function SoundingDepth({ y, left, right }: DepthPlot) {
  const through = useView((state) => state.through);
  const picked = usePicked(({ cell }) => cell?.system ?? null);
  const shown = useSounding((state) => state.shown);
  const system = useMemo(() => {
    if (!shown) return null;
    const id = through ?? picked ?? leastHeard(heardColumns(shown.heard, shown.systems))?.system.id ?? null;
    return shown.systems.find((each) => each.id === id) ?? null;
  }, [shown, through, picked]);
  if (!system) return null;
  const edge = DEPTHS.map((hz) => {
    const cut = Math.min(1, Math.max(0, -responseDb(system.response, hz) / WHOLE_DB));
    return [right - (right - left) * cut, y(hz)] as const;
  });
  return (
    <g role="img" aria-label={`What the ${system.name.toLowerCase()} cuts off`}>
      <path
        d={polygon([[right, y(BED_HZ)], ...edge, [right, y(SURFACE_HZ)]])}
        fill={sea.sheet}
        fillOpacity={0.72}
      />
      <path d={polyline(edge)} fill="none" stroke={sea.note} strokeWidth={1.2} strokeDasharray="4 3" />
      <text x={right - 30} y={y(BED_HZ) - 4} textAnchor="end" fontSize={TYPE.mark} fill={sea.note}>
        {system.name}
      </text>
    </g>
  );
}
