import {
  linkShape,
  MACRO_IDS,
  MOST_LINKS,
  numbersOfMover,
  parameter,
  type NumberNode,
  type SoundDocument,
} from '../../document/index.js';

/** A number of a mover, of a macro, or the reach of a link: the target that means it, its row, its value. */
interface MoverNumber {
  readonly target: string;
  readonly row: NumberNode;
  readonly value: number;
}

const MACRO_ROW = parameter('macros.*.valuePct');
const REACH_ROW = linkShape.fields.reachPct;

/**
 * Where the numbers of movers, macros and links stand in a bank: those of the movers in their order, then a
 * number a macro, then a reach a link, as many as there may be.
 */
export class MoverNumbers {
  readonly rows: readonly NumberNode[];
  /** Place of the first number of each mover, then of each macro; the first reach stands after them. */
  readonly first: Int32Array;
  private readonly own: readonly string[];
  private links: readonly string[] = [];

  constructor(document: SoundDocument) {
    const numbers = ownNumbers(document);
    this.own = numbers.flat().map(({ target }) => target);
    this.rows = [
      ...numbers.flat().map(({ row }) => row),
      ...Array.from({ length: MOST_LINKS }, () => REACH_ROW),
    ];
    this.first = new Int32Array(numbers.length + 1);
    numbers.forEach((each, i) => {
      this.first[i + 1] = this.first[i] + each.length;
    });
    this.takeLinks(document);
  }

  /** Place of the first reach. */
  get reaches(): number {
    return this.own.length;
  }

  /** Takes the links of a document; gives the places of reaches that are another link's from now on. */
  takeLinks({ links }: SoundDocument): number[] {
    const before = this.links;
    this.links = links.map(({ id }) => id);
    return this.links.flatMap((id, i) => (id === before[i] ? [] : [this.reaches + i]));
  }

  /** Place of the number that a target means; −1 where it is none of these. */
  readonly slotOf = (_document: SoundDocument, target: string): number => {
    const reach = /^links\.([a-z0-9-]+)\.reachPct$/.exec(target);
    if (!reach) return this.own.indexOf(target);
    const link = this.links.indexOf(reach[1]);
    return link < 0 ? -1 : this.reaches + link;
  };

  /** The numbers of a document, in the order of the rows. */
  values(document: SoundDocument): number[] {
    const reaches = document.links.map(({ reachPct }) => reachPct);
    return [
      ...ownNumbers(document).flatMap((numbers) => numbers.map(({ value }) => value)),
      ...reaches,
      ...Array.from({ length: MOST_LINKS - reaches.length }, () => 0),
    ];
  }

  /** Where this one's numbers stand in another's bank, −1 for those that it has not. */
  placesIn(other: MoverNumbers): number[] {
    return [
      ...this.own.map((target) => other.own.indexOf(target)),
      ...Array.from({ length: MOST_LINKS }, (_, i) => {
        const at = i < this.links.length ? other.links.indexOf(this.links[i]) : -1;
        return at < 0 ? -1 : other.reaches + at;
      }),
    ];
  }
}

function ownNumbers({ movers, macros }: SoundDocument): MoverNumber[][] {
  return [
    ...movers.map((mover) =>
      numbersOfMover(mover).map(({ field, row, value }) => ({
        target: `movers.${mover.id}.${field}`,
        row,
        value,
      })),
    ),
    ...macros.map(({ valuePct }, i) => [
      { target: `macros.${MACRO_IDS[i]}.valuePct`, row: MACRO_ROW, value: valuePct },
    ]),
  ];
}
