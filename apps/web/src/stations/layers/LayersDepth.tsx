import { filterMagnitude, gainToDb, parameter, type Filter, type SoundDocument } from '@abyssal/core';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { DepthHandle } from '../../depth/DepthHandle';
import { BED_HZ, SURFACE_HZ, type DepthPlot } from '../../depth/depth-plot';
import { edit, useSound } from '../../state/document-store';
import { shownLayer, useView } from '../../state/view-store';
import { sea } from '../../theme/sea';
import { TYPE } from '../../theme/type';

/**
 * What Layers brings to the depth chart: the pocket of the tone and the filter of the layer that are looked
 * at.
 */
export function LayersDepth(plot: DepthPlot) {
  const layerId = useView((state) => state.layerId);
  const filterNumber = useView((state) => state.filter);
  const toneNumber = useView((state) => state.tone);
  const chosen = (sound: SoundDocument) => sound.layers[shownLayer(sound, layerId)];
  const id = useSound((sound) => chosen(sound).id);
  const name = useSound((sound) => chosen(sound).name);
  const filter = useSound((sound) => chosen(sound).filters[filterNumber]);
  const pocket = useSound((sound) => {
    const { source } = chosen(sound).tones[toneNumber];
    return source.kind === 'harmonics' && source.pocket.on ? source.pocket : null;
  });
  return (
    <>
      {pocket && <Pocket {...plot} fromHz={pocket.fromHz} toHz={Math.min(SURFACE_HZ, pocket.toHz)} />}
      {filter.on && <FilterCurve {...plot} id={id} name={name} filter={filter} number={filterNumber} />}
    </>
  );
}

function Pocket({
  y,
  left,
  right,
  fromHz,
  toHz,
}: DepthPlot & { readonly fromHz: number; readonly toHz: number }) {
  return (
    <rect
      x={left}
      width={right - left}
      y={y(toHz)}
      height={Math.max(2, y(fromHz) - y(toHz))}
      fill={sea.note}
      fillOpacity={0.12}
      stroke={sea.note}
      strokeDasharray="2 3"
    />
  );
}

interface FilterCurveProps extends DepthPlot {
  readonly id: string;
  readonly name: string;
  readonly filter: Filter;
  readonly number: number;
}

/** The selected layer's filter: its curve, and a handle on its cutoff. */
function FilterCurve({ id, name, filter, number, y, hzAt, left, right }: FilterCurveProps) {
  const x = scaleLinear().domain([-36, 24]).range([left, right]).clamp(true);
  const depths = Array.from({ length: 240 }, (_, i) => BED_HZ * (SURFACE_HZ / BED_HZ) ** (i / 239));
  const path =
    line<number>()
      .y((hz) => y(hz))
      .x((hz) => x(gainToDb(filterMagnitude(filter, hz, 48000) ?? 1) + filter.levelDb))(depths) ?? '';
  const at = y(Math.min(SURFACE_HZ, filter.cutoffHz));
  return (
    <>
      <path d={path} fill="none" stroke={sea.ink} strokeWidth={1.6} />
      <DepthHandle
        label={`${name} cutoff`}
        row={parameter('layers.*.filters.*.cutoffHz')}
        value={filter.cutoffHz}
        hzAt={hzAt}
        y={at}
        onChange={(hz) => {
          edit(
            `${name} · cutoff`,
            (draft) => {
              draft.layers.find((layer) => layer.id === id)!.filters[number].cutoffHz = hz;
            },
            `cutoff ${id} ${number}`,
          );
        }}
      >
        <line x1={left} x2={right} y1={at} y2={at} stroke={sea.tint6} strokeWidth={1} />
        <circle cx={right - 12} cy={at} r={6} fill={sea.sheet} stroke={sea.ink} strokeWidth={1.6} />
        <rect x={left + 4} y={at - 17} width={98} height={15} fill={sea.sheet} fillOpacity={0.85} />
        <text x={left + 8} y={at - 5} fontSize={TYPE.mark} fontWeight={600} fill={sea.ink}>
          cutoff{' '}
          {filter.cutoffHz >= 1000
            ? `${(filter.cutoffHz / 1000).toFixed(2)} kHz`
            : `${Math.round(filter.cutoffHz)} Hz`}
        </text>
      </DepthHandle>
    </>
  );
}
