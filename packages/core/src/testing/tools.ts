import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/**
 * Runs a Python program (with NumPy and SciPy, from Debian) that reads JSON on standard input and prints
 * JSON.
 */
export function python<T>(program: string, input: unknown = null): T {
  const lines = `import json, sys\nimport numpy as np\nfrom scipy import signal, special\ndata = json.load(sys.stdin)\n${program}`;
  return JSON.parse(
    execFileSync('/usr/bin/python3', ['-c', lines], {
      input: JSON.stringify(input),
      encoding: 'utf8',
      maxBuffer: 2 ** 28,
    }),
  ) as T;
}

/** Runs a program and returns what it printed, both ways. */
export function run(program: string, args: readonly string[]): string {
  const { stdout, stderr, status } = spawnSync(program, args, { encoding: 'utf8', maxBuffer: 2 ** 28 });
  if (status !== 0) throw new Error(`${program} ended with ${status}: ${stderr}`);
  return stdout + stderr;
}

/** A folder for the files of one test file, and how to write into it. */
export function scratch(): {
  path: (name: string) => string;
  write: (name: string, bytes: Uint8Array | string) => string;
  remove: () => void;
} {
  const folder = mkdtempSync(join(tmpdir(), 'abyssal-test-'));
  const path = (name: string) => join(folder, name);
  return {
    path,
    write(name, bytes) {
      writeFileSync(path(name), bytes);
      return path(name);
    },
    remove: () => {
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
