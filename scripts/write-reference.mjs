// Writes the reference pages that come from the parameter table: docs/sound.schema.json and
// docs/parameters.md. With --check it
// only tells whether they are up to date.
import { readFileSync, writeFileSync } from 'node:fs';
import { PARAMETERS, formatValue, soundJsonSchema } from '@abyssal/core';

const cell = (text) => text.replaceAll('|', '\\|');
const rows = PARAMETERS.map(
  (row) =>
    `| \`${row.id}\` | ${cell(row.label)} | ${formatValue(row, row.min)} | ${formatValue(row, row.max)} | ${formatValue(row, row.default)} | ${row.scale} | ${row.movable ? 'yes' : ''} | ${cell(row.help)} |`,
);
const pages = {
  'docs/sound.schema.json': `${JSON.stringify(soundJsonSchema(), null, 1)}\n`,
  'docs/parameters.md': [
    '# Parameters',
    '',
    'Every number of a sound that can be turned. Written from the parameter table by `npm run docs:reference`.',
    '',
    '| place | name | least | greatest | default | scale | movers | what it does |',
    '| --- | --- | --- | --- | --- | --- | --- | --- |',
    ...rows,
    '',
  ].join('\n'),
};

let stale = 0;
for (const [path, text] of Object.entries(pages)) {
  const file = new URL(`../${path}`, import.meta.url);
  if (!process.argv.includes('--check')) writeFileSync(file, text);
  else if (readFileSync(file, 'utf8') !== text) {
    stale++;
    console.error(`${path} is out of date: run npm run docs:reference`);
  }
}
process.exitCode = stale > 0 ? 1 : 0;
