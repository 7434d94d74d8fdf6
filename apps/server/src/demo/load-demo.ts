import { demoChains, demoSounds } from '@abyssal/core';
import { MarkRow } from '../database/models.js';
import type { PartsService } from '../parts/parts.service.js';
import type { SoundsService } from '../sounds/sounds.service.js';

/** The sounds that came with the first release were marked as one. */
const FIRST = 'demo';
const FIRST_SOUNDS = ['Slack Water', 'Trench Growl'];
const markOf = (name: string) => `demo ${name}`.slice(0, 40);
const chainMarkOf = (name: string) => `demo chain ${name}`.slice(0, 40);

/**
 * Loads each sound and each chain of the demo record once in the life of a database: what the user deletes stays
 * deleted.
 */
export async function loadDemoOnce(sounds: SoundsService, parts: PartsService): Promise<void> {
  const first = await MarkRow.findByPk(FIRST);
  for (const document of demoSounds()) {
    const name = markOf(document.name);
    if ((first && FIRST_SOUNDS.includes(document.name)) || (await MarkRow.findByPk(name))) continue;
    await sounds.create(document);
    await MarkRow.create({ name });
  }
  for (const content of demoChains()) {
    const name = chainMarkOf(content.name);
    if (await MarkRow.findByPk(name)) continue;
    await parts.keep({ kind: 'chain', name: content.name, content });
    await MarkRow.create({ name });
  }
}
