import { queries } from '../api/queries';
import { readSound, restoreSound } from '../api/sounds';
import { dropBroken, dropJournal, keepJournal, type BrokenJournal } from '../browser/journals';
import { createCopy } from '../state/create-copy';
import { tell, tellError } from '../state/view-store';
import { send } from './send';
import { lookAtUnsaved, type UnsavedWork } from './unsaved-work';

const done = async (): Promise<void> => {
  await lookAtUnsaved();
  await queries.invalidateQueries({ queryKey: ['sounds'] });
};

/** Saves the work as the sound itself, over what the server has; a deleted sound is restored first. */
export async function keepAsTheSound({ journal, standing }: UnsavedWork): Promise<void> {
  const { soundId, document } = journal;
  const theirs = await (standing === 'deleted' ? restoreSound(soundId) : readSound(soundId));
  const kept = await send({ soundId, document, version: theirs.version });
  await dropJournal(journal);
  await done();
  tell(`“${document.name}” is kept as you left it.`, {
    label: 'Undo',
    run: () => {
      send({ soundId, document: theirs.document, version: kept.version })
        .then(() => keepJournal(journal))
        .then(done)
        .catch(tellError);
    },
  });
}

/** Saves the work as a sound of its own beside what the server has. */
export async function keepAsAnother({ journal }: UnsavedWork): Promise<void> {
  const copy = await createCopy(journal.document);
  await dropJournal(journal);
  await done();
  tell(`Kept as “${copy.document.name}”.`);
}

/** Throws the work away; it can be taken back. */
export async function discard({ journal }: UnsavedWork): Promise<void> {
  await dropJournal(journal);
  await lookAtUnsaved();
  tell(`Unsaved work on “${journal.document.name}” was discarded.`, {
    label: 'Undo',
    run: () => {
      keepJournal(journal).then(lookAtUnsaved).catch(tellError);
    },
  });
}

/** Throws away what could not be read. */
export async function discardBroken(broken: BrokenJournal): Promise<void> {
  await dropBroken(broken);
  await lookAtUnsaved();
}
