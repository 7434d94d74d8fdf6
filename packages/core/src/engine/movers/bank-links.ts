import { bankOf, resolveTarget, sourceIndex, type SoundDocument } from '../../document/index.js';
import { laneReader, type LaneReader } from './lanes.js';

/**
 * A link inside a bank: which value it carries, which mover or macro carries it, and its own place among the
 * links of the document; how far (a share of the row's range, signed), from where, along which bend.
 */
export interface BankLink {
  readonly slot: number;
  readonly mover: number;
  readonly link: number;
  readonly reach: number;
  readonly from: number;
  readonly bend: number;
  readonly both: boolean;
  readonly opposed: boolean;
}

/** A lane inside a bank: which value it sets. */
export interface BankLane {
  readonly slot: number;
  readonly reader: LaneReader;
}

/** Place of the number that a target means in a bank of a part; −1 where it is none of it. */
type SlotOf = (document: SoundDocument, target: string) => number;

/** Places in the bank of a layer (by its id) or of the mix (null), with these fields. */
export const slotsOf =
  (layerId: string | null, fields: readonly string[]): SlotOf =>
  (document, target) => {
    const found = resolveTarget(document, target);
    if (!found || bankOf(document, found) !== layerId) return -1;
    // Within a layer its own numbers go by their fields; all others by the whole target.
    return fields.indexOf(found.part === 'layer' ? found.field : target);
  };

/** The links of a document that reach a bank. */
export function bankLinks(document: SoundDocument, slotOf: SlotOf): BankLink[] {
  return document.links.flatMap((link, index): BankLink[] => {
    if (!link.on) return [];
    const slot = slotOf(document, link.target);
    const mover = slot < 0 ? -1 : sourceIndex(document, link.mover);
    if (mover < 0) return [];
    return [
      {
        slot,
        mover,
        link: index,
        reach: link.reachPct / 100,
        from: link.fromPct / 100,
        bend: link.bend,
        both: link.way === 'both ways',
        opposed: link.sides === 'opposed',
      },
    ];
  });
}

/** The lanes of a document that set numbers of a bank. */
export function bankLanes(document: SoundDocument, slotOf: SlotOf): BankLane[] {
  return document.lanes.flatMap((lane): BankLane[] => {
    const slot = lane.on ? slotOf(document, lane.target) : -1;
    return slot < 0 ? [] : [{ slot, reader: laneReader(lane) }];
  });
}
