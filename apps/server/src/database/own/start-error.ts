/** A database that cannot be started, with one sentence that says why and what to do. */
export class DatabaseStartError extends Error {
  override readonly name = 'DatabaseStartError';
}

/** Why something could not be done with a folder, in the words of the system's error. */
export function folderError(folder: string, error: unknown): DatabaseStartError {
  const { code, message } = error as NodeJS.ErrnoException;
  if (code === 'EEXIST' || code === 'ENOTDIR')
    return new DatabaseStartError(`${folder} is a file, or lies below one; give --data a folder`);
  if (code === 'EACCES' || code === 'EPERM' || code === 'EROFS')
    return new DatabaseStartError(
      `nothing can be written in ${folder}; give --data a folder that you may write in`,
    );
  if (code === 'ENOSPC' || code === 'EDQUOT')
    return new DatabaseStartError(`the disk of ${folder} is full; make room, or give --data another folder`);
  return new DatabaseStartError(`${folder} cannot be used: ${message}`);
}
