import { MACRO_IDS, moverKindOf, type Mover } from '../kinds/movers/index.js';
import type { Parameter } from '../schema/parameter.js';
import { unitKindOf } from '../kinds/units/index.js';
import { numbersOfMover, numbersOfUnit, soundingValues } from './movable-values.js';
import { PARAMETERS, parameter, resolveTarget } from './parameters.js';
import type { Link, SoundDocument } from './shape.js';
import { bandName, placeName, unitName } from './unit-names.js';
import { chainsOf, unitById } from './units.js';

/** Something that movers may reach, with words for it and for the group in which it is listed. */
export interface Target {
  readonly target: string;
  readonly group: string;
  readonly label: string;
  readonly row: Parameter;
}

type Named = Pick<SoundDocument, 'layers' | 'movers' | 'links' | 'macros' | 'grit'>;

/** The name of a macro, or its number where it has none. */
export const macroName = ({ macros }: Pick<SoundDocument, 'macros'>, index: number) =>
  macros[index].name.trim() || `Macro ${index + 1}`;

/** The name of a mover or macro by its id; null where there is none. */
export function sourceName(document: Pick<SoundDocument, 'movers' | 'macros'>, id: string): string | null {
  const macro = MACRO_IDS.indexOf(id);
  if (macro >= 0) return macroName(document, macro);
  return document.movers.find((mover) => mover.id === id)?.name ?? null;
}

/**
 * Words for what stands on the way to a number: `layers.*.tones.0.source.fm.matrix.4` is "Tone 1 · 2 into 1 ·
 * amount".
 */
function fieldLabel(field: string, row: Parameter): string {
  const parts = field.split('.');
  const words: string[] = [];
  parts.forEach((part, i) => {
    const place = Number(parts[i + 1]);
    if (part === 'tones') words.push(`tone ${place + 1}`);
    else if (part === 'filters') words.push(`filter ${place + 1}`);
    else if (part === 'oscillators') words.push(`oscillator ${place + 1}`);
    else if (part === 'sections') words.push(`section ${place + 1}`);
    else if (part === 'combs') words.push(`comb ${place + 1}`);
    else if (part === 'each') words.push(`band ${place + 1}`);
    else if (part === 'matrix')
      words.push(
        place % 5 === 0 ? `${place / 5 + 1} into itself` : `${(place >> 2) + 1} into ${(place % 4) + 1}`,
      );
  });
  return [...words, row.label.toLowerCase()].join(' · ');
}

/** A part of the mix by the path of a number in it. */
const mixGroup = (id: string) => (id.startsWith('feedback') ? 'Whole sound' : 'Clean path');

const linkLabel = (document: Named, link: Link) =>
  `${sourceName(document, link.mover) ?? link.mover} on ${targetLabel(document, link.target) ?? link.target}`;

/** Words for a target, such as "Body · filter 1 · cutoff"; null where there is no such place. */
export function targetLabel(document: Named, target: string): string | null {
  const found = resolveTarget(document, target);
  if (!found) return null;
  const { part, id, field, row } = found;
  switch (part) {
    case 'layer':
      return `${document.layers.find((layer) => layer.id === id)!.name} · ${fieldLabel(field, row)}`;
    case 'mover':
      return `${sourceName(document, id!)!} · ${fieldLabel(field, row)}`;
    case 'macro':
      return sourceName(document, id!);
    case 'link':
      return `Reach of ${linkLabel(
        document,
        document.links.find((link) => link.id === id)!,
      )}`;
    case 'band':
      return `${bandName(
        document,
        document.grit.bands.findIndex((band) => band.id === id),
      )} · ${row.label.toLowerCase()}`;
    case 'unit': {
      const { unit, place } = unitById(document, id!)!;
      const { units } = chainsOf(document).find((chain) => chain.units.includes(unit))!;
      return `${placeName(document, place)} · ${unitName(units, unit)} · ${fieldLabel(field, row)}`;
    }
    case 'mix':
      return `${mixGroup(target)} · ${row.label.toLowerCase()}`;
  }
}

function targetsOfMover(mover: Mover): Target[] {
  const idle = moverKindOf(mover.kind).idle?.(mover) ?? [];
  return numbersOfMover(mover).flatMap(({ field, row }) =>
    idle.includes(field)
      ? []
      : [
          {
            target: `movers.${mover.id}.${field}`,
            group: 'Movers',
            label: `${mover.name} · ${fieldLabel(field, row)}`,
            row,
          },
        ],
  );
}

/** The numbers of units that have an effect as they are set, chain by chain. */
function targetsOfUnits(document: Named): Target[] {
  return chainsOf(document).flatMap(({ place, units }) => {
    const group = placeName(document, place);
    return units
      .filter(({ on }) => on)
      .flatMap((unit) => {
        const idle = unitKindOf(unit.kind).idle?.(unit) ?? [];
        return numbersOfUnit(unit).flatMap(({ field, row }) =>
          idle.includes(field)
            ? []
            : [
                {
                  target: `units.${unit.id}.${field}`,
                  group,
                  label: `${group} · ${unitName(units, unit)} · ${fieldLabel(field, row)}`,
                  row,
                },
              ],
        );
      });
  });
}

const BAND_FIELDS = ['levelDb', 'widthPct', 'wetPct'] as const;

/**
 * Every target that the movers of a document may reach and that has an effect now, with words for it: layers,
 * mix, movers, reaches of links, macros.
 */
export function linkTargets(document: Named): Target[] {
  return [
    ...document.layers.flatMap((layer) =>
      soundingValues(layer)
        .filter(({ field }) => !field.startsWith('units.'))
        .map(({ field, row }) => ({
          target: `layers.${layer.id}.${field}`,
          group: layer.name,
          label: `${layer.name} · ${fieldLabel(field, row)}`,
          row,
        })),
    ),
    ...PARAMETERS.filter(
      (row) => row.movable && !/^(layers|movers|macros|links|units|grit\.bands)\./.test(row.id),
    ).map((row) => ({
      target: row.id,
      group: mixGroup(row.id),
      label: `${mixGroup(row.id)} · ${row.label.toLowerCase()}`,
      row,
    })),
    ...document.grit.bands.flatMap(({ id }, b) =>
      BAND_FIELDS.map((field) => {
        const row = parameter(`grit.bands.*.${field}`);
        const group = bandName(document, b);
        return { target: `bands.${id}.${field}`, group, label: `${group} · ${row.label.toLowerCase()}`, row };
      }),
    ),
    ...targetsOfUnits(document),
    ...document.movers.flatMap(targetsOfMover),
    ...document.links.map((link) => ({
      target: `links.${link.id}.reachPct`,
      group: 'Reaches of links',
      label: `Reach of ${linkLabel(document, link)}`,
      row: parameter('links.*.reachPct'),
    })),
    ...MACRO_IDS.map((id, i) => ({
      target: `macros.${id}.valuePct`,
      group: 'Macros',
      label: macroName(document, i),
      row: parameter('macros.*.valuePct'),
    })),
  ];
}
