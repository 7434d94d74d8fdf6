import { randomBytes } from 'node:crypto';
import { readFileSync, renameSync, writeFileSync } from 'node:fs';

const SECRET = /^[0-9a-f]{48}$/;

/** The password of the database, made where there is none or where the file was cut short. */
export function secretIn(file: string): string {
  try {
    const kept = readFileSync(file, 'utf8').trim();
    if (SECRET.test(kept)) return kept;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
  }
  const fresh = randomBytes(24).toString('hex');
  writeFileSync(`${file}.new`, fresh, { mode: 0o600 });
  renameSync(`${file}.new`, file);
  return fresh;
}
