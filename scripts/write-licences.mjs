// Lists the licences of every package that ships with the program, from the lock file and the packages
// themselves; with --check it only says whether the page is up to date.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));
const page = `${root}docs/licences.md`;
const read = (path) => JSON.parse(readFileSync(`${root}${path}`, 'utf8'));

const NOTES = {
  'LGPL-2.1-or-later':
    'The connector to MariaDB, used as it is by way of its public interface, in the server only; it can be exchanged for another version in `node_modules`.',
  'OFL-1.1': 'The fonts, shipped with the interface unchanged and under their own names.',
};

const found = new Map();
for (const [path, entry] of Object.entries(read('package-lock.json').packages)) {
  if (!path.includes('node_modules/') || entry.dev || entry.link) continue;
  // Builds of a package for one kind of machine each: the package itself is listed.
  if (entry.os || entry.cpu) continue;
  const own = existsSync(`${root}${path}/package.json`) ? read(`${path}/package.json`) : entry;
  const { license = entry.license } = own;
  const licence =
    typeof license === 'string' ? license : (license?.type ?? own.licenses?.[0]?.type ?? 'none named');
  const name = path.slice(path.lastIndexOf('node_modules/') + 'node_modules/'.length);
  const names = found.get(licence) ?? new Set();
  found.set(licence, names.add(`${name} ${entry.version}`));
}

const rare = [...found].sort(([, a], [, b]) => a.size - b.size);
const text = `# Licences of what ships

Written by \`scripts/write-licences.mjs\` from the lock file; \`bin/test\` checks that it is up to date. Tools that only build and test
(their licences are in the lock file) do not ship. MariaDB, Chromium, ffmpeg, sox and SciPy come from Debian as programs of their own.

${rare
  .map(
    ([licence, names]) =>
      `## ${licence}\n\n${NOTES[licence] ? `${NOTES[licence]}\n\n` : ''}${[...names].sort().join(', ')}\n`,
  )
  .join('\n')}`;

if (process.argv.includes('--check')) {
  if (!existsSync(page) || readFileSync(page, 'utf8') !== text) {
    console.error('docs/licences.md is out of date: run node scripts/write-licences.mjs');
    process.exit(1);
  }
} else writeFileSync(page, text);
