// Writes the reference pages that come from the parameter table: docs/sound.schema.json and
// docs/parameters.md. With --check it
// only tells whether they are up to date.
import { readFileSync, writeFileSync } from 'node:fs';
import { PARAMETERS, UNIT_NAMES, formatValue, soundJsonSchema, unitKindOf } from '@abyssal/core';

const cell = (text) => text.replaceAll('|', '\\|');
const rows = PARAMETERS.map(
  (row) =>
    `| \`${row.id}\` | ${cell(row.label)} | ${formatValue(row, row.min)} | ${formatValue(row, row.max)} | ${formatValue(row, row.default)} | ${row.scale} | ${row.movable ? 'yes' : ''} | ${cell(row.help)} |`,
);
/** What one field of a unit may be, as one short phrase. */
function field(name, node) {
  switch (node.kind) {
    case 'number':
      return `\`${name}\` ${node.min} … ${node.max} (${node.default})`;
    case 'choice':
      return `\`${name}\` ${node.options.map((option) => `"${option}"`).join(', ')} ("${node.default}")`;
    case 'flag':
      return `\`${name}\` true, false (${node.default})`;
    case 'text':
      return `\`${name}\` a name ("${node.default}")`;
    case 'list':
      return `\`${name}\` up to ${node.max} of {${Object.entries(node.of.fields)
        .map(([inner, each]) => field(inner, each))
        .join('; ')}}`;
    default:
      throw new Error(`a unit has a ${node.kind}`);
  }
}
const COMMON = ['kind', 'id', 'on', 'locked', 'match', 'levelDb'];
const units = UNIT_NAMES.map((name) => {
  const { purpose, shape } = unitKindOf(name);
  const own = Object.entries(shape.fields).filter(([key]) => !COMMON.includes(key));
  return `- **${name}**: ${purpose} ${own.map(([key, node]) => field(key, node)).join('; ')}`;
});
/** A page with what stands between two of its lines written anew. */
const between = (path, from, to, lines) => {
  const text = readFileSync(new URL(`../${path}`, import.meta.url), 'utf8');
  const [head, rest] = text.split(`${from}\n`);
  return `${head}${from}\n${lines.join('\n')}\n${to}${rest.slice(rest.indexOf(to) + to.length)}`;
};

const pages = {
  'docs/formats.md': between('docs/formats.md', '<!-- units -->', '<!-- end of units -->', units),
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
