import { demoSounds } from '@abyssal/core';
import { MarkRow } from '../database/models.js';
import type { SoundsService } from '../sounds/sounds.service.js';

/** The sounds that came with the first release were marked as one. */
const FIRST = 'demo';
const FIRST_SOUNDS = ['Slack Water', 'Trench Growl'];
const markOf = (name: string) => `demo ${name}`.slice(0, 40);

/**
 * Loads each sound of the demo record once in the life of a database: what the user deletes stays deleted.
 */
export async function loadDemoOnce(sounds: SoundsService): Promise<void> {
  const first = await MarkRow.findByPk(FIRST);
  for (const document of demoSounds()) {
    const name = markOf(document.name);
    if ((first && FIRST_SOUNDS.includes(document.name)) || (await MarkRow.findByPk(name))) continue;
    await sounds.create(document);
    await MarkRow.create({ name });
  }
}
