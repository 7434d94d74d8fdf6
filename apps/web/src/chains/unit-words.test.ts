import { UNIT_NAMES, unitKindOf, type SchemaNode } from '@abyssal/core';
import { FIELD_WORDS, fieldWord, OPTION_WORDS } from './unit-words';

/** Every choice and switch of every kind of unit that the page shows. */
const choices = UNIT_NAMES.flatMap((kind) => {
  const found: [string, SchemaNode][] = [];
  const walk = (fields: Readonly<Record<string, SchemaNode>>) => {
    for (const [field, node] of Object.entries(fields)) {
      if (node.kind === 'list') walk((node.of as { fields: Readonly<Record<string, SchemaNode>> }).fields);
      else if (node.kind !== 'number' && node.kind !== 'literal' && field !== 'id') found.push([field, node]);
    }
  };
  walk(unitKindOf(kind).shape.fields);
  return found.map(([field, node]) => ({ kind, field, node }));
});

describe('what settings of units are called', () => {
  it.each(choices.map((each) => [each.kind, each.field, each] as const))(
    '%s, %s: in words, options too',
    (_kind, field, { node }) => {
      expect(fieldWord(field).replace('dB', '')).not.toMatch(/[a-z][A-Z]|_/);
      if (node.kind !== 'choice') return;
      for (const option of node.options)
        expect(OPTION_WORDS[field]?.[option] ?? option).not.toMatch(/[a-z][A-Z]|_/);
      // No two options read alike.
      const words = node.options.map((option) => OPTION_WORDS[field]?.[option] ?? option);
      expect(new Set(words).size).toBe(words.length);
    },
  );

  it('names no setting and no option that no unit has', () => {
    const fields = choices.map(({ field }) => field);
    for (const field of Object.keys(FIELD_WORDS)) expect(fields).toContain(field);
    const had = new Map<string, string[]>();
    for (const { field, node } of choices)
      if (node.kind === 'choice') had.set(field, [...(had.get(field) ?? []), ...node.options]);
      else if (node.kind === 'text') had.set(field, [node.default]);
    for (const [field, words] of Object.entries(OPTION_WORDS))
      for (const option of Object.keys(words)) expect(had.get(field)).toContain(option);
  });
});

describe('what kinds of units are for', () => {
  it.each(UNIT_NAMES)('%s says it in one short line', (kind) => {
    const { label, purpose } = unitKindOf(kind);
    expect(label).toMatch(/^[A-Z]/);
    expect(purpose).toMatch(/^[A-Z].*\.$/);
    expect(purpose.length).toBeLessThan(130);
  });
});
