/** What choices and switches of units are called, and their options where the document's own word needs more. */
export const FIELD_WORDS: Readonly<Record<string, string>> = {
  emphasis: 'Emphasis by',
  form: 'Form',
  mode: 'Kind',
  slope: 'Slope, dB',
  level: 'Level by',
  listensTo: 'Listens to',
  with: 'Against',
  bands: 'Bands',
  way: 'Acts',
  timing: 'Time in',
  pingPong: 'ping-pong',
  teeth: 'Teeth',
  stages: 'Stages',
  source: 'Moved by',
  tuned: 'Tuned',
  on: 'on',
};

export const OPTION_WORDS: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  form: { state: 'smooth' },
  way: { static: 'always', tail: 'on tails only' },
  tuned: { note: 'to the note', free: 'in hertz' },
  teeth: { between: 'up between', on: 'up on' },
  listensTo: { self: 'itself' },
  with: { level: 'a level' },
  mode: {
    low: 'low-pass',
    high: 'high-pass',
    'band clipped': 'band, clipped inside',
    'comb negative': 'comb, negative',
  },
};

/** A field's word; a name of several words is taken apart. */
export const fieldWord = (field: string): string =>
  FIELD_WORDS[field] ?? field.replace(/([A-Z])/g, ' $1').toLowerCase();
