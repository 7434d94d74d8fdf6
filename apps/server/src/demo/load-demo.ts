import { demoSounds } from '@abyssal/core';
import { MarkRow } from '../database/models.js';
import type { SoundsService } from '../sounds/sounds.service.js';

const MARK = 'demo';

/** Loads the demo record once in the life of a database: what the user deletes stays deleted. */
export async function loadDemoOnce(sounds: SoundsService): Promise<void> {
  if (await MarkRow.findByPk(MARK)) return;
  for (const document of demoSounds()) await sounds.create(document);
  await MarkRow.create({ name: MARK });
}
