import { resolveTarget, type SoundDocument } from '../../document/index.js';
import type { BankLink } from './parameter-bank.js';

/** The links of a document that reach the fields of one part (a layer, or the mix), as places in its bank. */
export function bankLinks(
  document: SoundDocument,
  layerId: string | null,
  fields: readonly string[],
): BankLink[] {
  const out: BankLink[] = [];
  for (const link of document.links) {
    const target = resolveTarget(document, link.target);
    const mover = document.movers.findIndex((candidate) => candidate.id === link.mover);
    if (!link.on || !target || target.layerId !== layerId || mover < 0) continue;
    const slot = fields.indexOf(target.field);
    if (slot >= 0) out.push({ slot, mover, reach: link.reachPct / 100 });
  }
  return out;
}
