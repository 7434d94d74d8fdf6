import { accessSync, constants, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { lock } from 'proper-lockfile';
import { DatabaseStartError, folderError } from './start-error.js';

/** Who uses a data folder: a process, told from a later one of the same number by when it began. */
interface Owner {
  readonly pid: number;
  readonly began: string;
  /** Where it serves; null while it is starting. */
  readonly address: string | null;
}

/** A data folder that is ours until we give it back. */
export interface OwnedFolder {
  /** Says where we serve, for those who start a second time. */
  servesAt(address: string): void;
  giveBack(): void;
}

/** When a process began, in ticks since the machine did (proc(5), field 22); null where there is none. */
function beganAt(pid: number): string | null {
  try {
    // The name of the program stands in brackets before it, and may hold spaces.
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    const [state, ...fields] = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
    return state === 'Z' ? null : fields[18];
  } catch {
    return null;
  }
}

function readOwner(file: string): Owner | null {
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as Owner;
  } catch {
    return null;
  }
}

/** Makes the folder where there is none, and finds out now whether it can be written in. */
function prepareFolder(folder: string): void {
  try {
    mkdirSync(folder, { recursive: true });
    accessSync(folder, constants.W_OK | constants.X_OK);
    const probe = join(folder, '.probe');
    writeFileSync(probe, 'x');
    rmSync(probe);
  } catch (error) {
    throw folderError(folder, error);
  }
}

/**
 * Takes a data folder, which one process at a time may use. Throws a `DatabaseStartError` that names the
 * address of a process that has it; the folder of one that is dead is taken over.
 */
export async function ownFolder(folder: string): Promise<OwnedFolder> {
  prepareFolder(folder);
  const file = join(folder, 'owner.json');
  const release = await lock(folder, {
    lockfilePath: join(folder, 'owner.lock'),
    retries: { retries: 60, factor: 1, minTimeout: 250 },
  });
  try {
    const owner = readOwner(file);
    if (owner && owner.pid !== process.pid && beganAt(owner.pid) === owner.began)
      throw new DatabaseStartError(
        owner.address
          ? `Abyssal already runs on ${folder}: it is at ${owner.address} (process ${owner.pid}); give another --data to run a second one`
          : `Abyssal is just being started on ${folder} (process ${owner.pid}); give another --data to run a second one`,
      );
    const keep = (address: string | null) => {
      const mine: Owner = { pid: process.pid, began: beganAt(process.pid) ?? '', address };
      writeFileSync(file, JSON.stringify(mine));
    };
    keep(null);
    return {
      servesAt: keep,
      giveBack() {
        if (readOwner(file)?.pid === process.pid) rmSync(file, { force: true });
      },
    };
  } finally {
    await release();
  }
}
