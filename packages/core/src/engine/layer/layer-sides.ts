import { resolveTarget, type Layer, type SoundDocument } from '../../document/index.js';
import { unitKindOf } from '../../kinds/units/index.js';
import { actingTones } from '../tones/interplay.js';
import { toneEngine } from '../tones/tone-set.js';

/** Whether a link or a lane carries a field of a layer. */
export function linkedIn({ links, lanes }: SoundDocument, layer: Layer): (field: string) => boolean {
  return (field) => {
    const target = `layers.${layer.id}.${field}`;
    return links.some((link) => link.target === target) || lanes.some((lane) => lane.target === target);
  };
}

/** Whether a link carries left and right of a layer apart. */
export function carriedApart(document: SoundDocument, layer: Layer): boolean {
  return document.links.some((link) => {
    const target = link.sides === 'opposed' ? resolveTarget(document, link.target) : null;
    return target?.part === 'layer' && target.id === layer.id && target.row.sided;
  });
}

/** Whether a layer can differ between left and right, now or by a link. */
export function isStereo(document: SoundDocument, layer: Layer): boolean {
  const linked = linkedIn(document, layer);
  const acting = actingTones(layer);
  return (
    layer.panPct !== 0 ||
    layer.chain.some((unit) => unit.on && unitKindOf(unit.kind).widens?.(unit) === true) ||
    carriedApart(document, layer) ||
    linked('panPct') ||
    layer.tones.some(
      (tone, t) =>
        tone.on &&
        (tone.panPct !== 0 ||
          linked(`tones.${t}.panPct`) ||
          toneEngine(tone.source.kind).twoSided ||
          (!acting[t] &&
            toneEngine(tone.source.kind).copied &&
            tone.copies > 1 &&
            (tone.spreadPct > 0 || linked(`tones.${t}.spreadPct`)))),
    )
  );
}
