import type { SoundDocument } from '@abyssal/core';

/** What a mover may be started by or follow, beside the kick: the backing parts by their names. */
export const partOptions = ({ backing }: Pick<SoundDocument, 'backing'>) =>
  backing.map(({ id, name }) => ({ value: id, label: name || 'Part' }));
