import { numbersOfUnits, parameter, type Grit, type GritUnit, type Parameter } from '../../document/index.js';

/** A number of grit with its target, its row and its value. */
interface Entry {
  readonly field: string;
  readonly row: Parameter;
  readonly value: number;
}

function entriesOf({ cleanPath, bands, after }: Grit): Entry[] {
  const own = (field: string, id: string, value: number): Entry => ({ field, row: parameter(id), value });
  const units = (list: readonly GritUnit[]): Entry[] => numbersOfUnits(list);
  return [
    own('grit.cleanPath.frequencyHz', 'grit.cleanPath.frequencyHz', cleanPath.frequencyHz),
    own('grit.cleanPath.levelDb', 'grit.cleanPath.levelDb', cleanPath.levelDb),
    ...units(cleanPath.units),
    ...bands.flatMap((band) => [
      own(`bands.${band.id}.fromHz`, 'grit.bands.*.fromHz', band.fromHz),
      own(`bands.${band.id}.levelDb`, 'grit.bands.*.levelDb', band.levelDb),
      own(`bands.${band.id}.widthPct`, 'grit.bands.*.widthPct', band.widthPct),
      own(`bands.${band.id}.wetPct`, 'grit.bands.*.wetPct', band.wetPct),
      ...units(band.units),
    ]),
    ...units(after),
  ];
}

/** The numbers of grit in the order of their bank. */
export const gritValues = (grit: Grit): number[] => entriesOf(grit).map(({ value }) => value);

/** Where the numbers of grit stand in a bank in which the first of them stands at `at`. */
export class GritLayout {
  readonly fields: readonly string[];
  readonly rows: readonly Parameter[];
  readonly crossover: number;
  readonly cleanLevel: number;
  /** The first number of the clean path's units, and of those behind the sum. */
  readonly clean: number;
  readonly after: number;
  /** Where each band begins, and the first of its own numbers (`BAND_LEVEL` and so on), its units' after them. */
  readonly froms: readonly number[];
  readonly bands: readonly number[];

  constructor(grit: Grit, at: number) {
    const entries = entriesOf(grit);
    this.fields = entries.map(({ field }) => field);
    this.rows = entries.map(({ row }) => row);
    this.crossover = at;
    this.cleanLevel = at + 1;
    this.clean = at + 2;
    this.froms = grit.bands.map(({ id }) => at + this.fields.indexOf(`bands.${id}.fromHz`));
    this.bands = this.froms.map((from) => from + 1);
    this.after = at + entries.length - numbersOfUnits(grit.after).length;
  }
}
