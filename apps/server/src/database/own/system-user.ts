import { execFile } from 'node:child_process';
import { userInfo } from 'node:os';
import { promisify } from 'node:util';

const run = promisify(execFile);

export interface SystemUser {
  readonly name: string;
  readonly uid: number;
  readonly gid: number;
}

/**
 * The system user that the database runs as. Root hands over to Debian's `mysql`, unless that user cannot enter
 * the folder, as below root's own home: then it stays root, which MariaDB does only when it is told to. It
 * listens on loopback either way.
 */
export async function systemUser(folder: string): Promise<SystemUser> {
  const { username: name, uid, gid } = userInfo();
  if (uid !== 0) return { name, uid, gid };
  try {
    await run('runuser', ['-u', 'mysql', '--', 'test', '-x', folder]);
    const id = async (flag: string) => Number((await run('id', [flag, 'mysql'])).stdout);
    return { name: 'mysql', uid: await id('-u'), gid: await id('-g') };
  } catch {
    return { name, uid, gid };
  }
}

/**
 * Gives a folder with all that is in it to a user. Who the database runs as may change from one start to the
 * next, as the folder is opened to `mysql` or moved.
 */
export async function giveTo({ uid, gid }: SystemUser, ...paths: readonly string[]): Promise<void> {
  if (userInfo().uid === 0) await run('chown', ['-R', '-h', `${uid}:${gid}`, '--', ...paths]);
}
