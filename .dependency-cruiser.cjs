// What each folder may import: an allow-list. A folder that is not named here fails, and so does a circle, of
// folders or of files.
const { readdirSync } = require('node:fs');
const { join } = require('node:path');

const CORE_BELOW_ENGINE = [
  'units',
  'music',
  'schema',
  'dsp',
  'kinds/filters',
  'kinds/units',
  'kinds/movers',
  'document',
];
const UNIT = ['schema', 'dsp', 'units', 'kinds/units/kind'];
const CORE = {
  units: [],
  music: [],
  schema: ['units'],
  'dsp/base': [],
  'dsp/delays': ['dsp/base'],
  'dsp/transforms': [],
  'dsp/rates': ['dsp/transforms'],
  'dsp/waves': ['dsp/base', 'dsp/transforms'],
  'dsp/filters': ['dsp/base', 'dsp/rates', 'dsp/waves'],
  'dsp/curves': ['dsp/rates'],
  'dsp/shaping': ['dsp/rates'],
  dsp: [
    'dsp/base',
    'dsp/delays',
    'dsp/transforms',
    'dsp/rates',
    'dsp/waves',
    'dsp/filters',
    'dsp/curves',
    'dsp/shaping',
  ],
  'kinds/movers': ['schema', 'dsp', 'units'],
  'kinds/filters': ['schema', 'dsp', 'units'],
  'kinds/units/kind': ['schema'],
  'kinds/units/shapers': UNIT,
  'kinds/units/filter': [...UNIT, 'kinds/filters'],
  'kinds/units/dynamics': UNIT,
  'kinds/units/spectrum': UNIT,
  'kinds/units/movement': UNIT,
  'kinds/units': [
    'schema',
    'kinds/units/kind',
    'kinds/units/shapers',
    'kinds/units/filter',
    'kinds/units/dynamics',
    'kinds/units/spectrum',
    'kinds/units/movement',
  ],
  document: ['schema', 'kinds/movers', 'kinds/filters', 'kinds/units', 'units', 'music'],
  'engine/base': CORE_BELOW_ENGINE,
  'engine/movers': CORE_BELOW_ENGINE,
  'engine/kick': [...CORE_BELOW_ENGINE, 'engine/base'],
  'engine/backing': [...CORE_BELOW_ENGINE, 'engine/base'],
  'engine/tones': [...CORE_BELOW_ENGINE, 'engine/base'],
  'engine/sides': [...CORE_BELOW_ENGINE, 'engine/base', 'engine/kick', 'engine/backing'],
  'engine/units': [...CORE_BELOW_ENGINE, 'engine/base'],
  'engine/layer': [
    ...CORE_BELOW_ENGINE,
    'engine/base',
    'engine/movers',
    'engine/kick',
    'engine/tones',
    'engine/units',
    'engine/sides',
  ],
  'engine/mix': [
    ...CORE_BELOW_ENGINE,
    'engine/base',
    'engine/movers',
    'engine/kick',
    'engine/backing',
    'engine/units',
    'engine/sides',
    'engine/layer',
  ],
  'engine/hosts': [
    ...CORE_BELOW_ENGINE,
    'engine/base',
    'engine/movers',
    'engine/kick',
    'engine/backing',
    'engine/tones',
    'engine/units',
    'engine/sides',
    'engine/layer',
    'engine/mix',
  ],
  engine: [
    'engine/base',
    'engine/movers',
    'engine/kick',
    'engine/backing',
    'engine/tones',
    'engine/units',
    'engine/sides',
    'engine/layer',
    'engine/mix',
    'engine/hosts',
  ],
  measure: ['units', 'music', 'dsp'],
  lock: ['units', 'dsp'],
  translation: ['units', 'document', 'dsp', 'measure'],
  listening: ['units', 'document', 'dsp', 'engine', 'measure', 'translation'],
  'figures/passes': [...CORE_BELOW_ENGINE, 'engine', 'measure', 'lock', 'translation'],
  'figures/tone': [...CORE_BELOW_ENGINE, 'engine', 'measure', 'lock', 'translation', 'figures/passes'],
  'figures/kinds': [...CORE_BELOW_ENGINE, 'measure', 'lock', 'translation', 'figures/passes', 'figures/tone'],
  figures: [
    ...CORE_BELOW_ENGINE,
    'engine',
    'measure',
    'lock',
    'translation',
    'figures/passes',
    'figures/tone',
    'figures/kinds',
  ],
  advice: [...CORE_BELOW_ENGINE, 'engine', 'measure', 'lock', 'figures'],
  'mending/base': [...CORE_BELOW_ENGINE, 'engine', 'figures'],
  'mending/kinds': [...CORE_BELOW_ENGINE, 'figures', 'mending/base'],
  mending: [...CORE_BELOW_ENGINE, 'engine', 'measure', 'figures', 'mending/base', 'mending/kinds'],
  chains: [...CORE_BELOW_ENGINE, 'engine', 'measure'],
  formats: [...CORE_BELOW_ENGINE],
  demo: ['units', 'music', 'document'],
  testing: [
    ...CORE_BELOW_ENGINE,
    'engine',
    'engine/base',
    'engine/movers',
    'engine/layer',
    'engine/hosts',
    'formats',
    'demo',
  ],
  '.': [
    ...CORE_BELOW_ENGINE,
    'engine',
    'measure',
    'lock',
    'translation',
    'listening',
    'figures',
    'advice',
    'mending',
    'chains',
    'formats',
    'demo',
  ],
};

const WEB = {
  api: [],
  browser: [],
  theme: [],
  testing: [],
  state: ['api', 'browser'],
  unsaved: ['api', 'browser', 'state'],
  files: ['state', 'sounding'],
  audio: ['state'],
  sounding: ['api', 'state', 'audio'],
  controls: ['theme', 'state', 'audio'],
  charts: ['theme', 'controls'],
  depth: ['theme', 'state', 'audio', 'sounding', 'controls'],
  lanes: ['theme', 'state', 'controls', 'charts'],
  midi: ['theme', 'state', 'audio', 'controls'],
  recording: ['state', 'audio', 'controls'],
  parts: ['api', 'state', 'controls'],
  compare: ['api', 'theme', 'state', 'audio', 'sounding', 'controls', 'parts'],
  chains: ['api', 'theme', 'state', 'audio', 'sounding', 'controls', 'charts', 'depth', 'parts'],
  report: ['api', 'theme', 'state', 'sounding', 'controls', 'charts', 'shell'],
  'stations/grit': ['theme', 'state', 'sounding', 'controls', 'depth', 'chains'],
  'stations/motion/kinds': ['theme', 'state', 'controls', 'charts', 'parts'],
  'stations/motion': [
    'theme',
    'state',
    'sounding',
    'controls',
    'charts',
    'parts',
    'lanes',
    'midi',
    'recording',
    'stations/motion/kinds',
  ],
  'stations/layers/tones': ['theme', 'state', 'sounding', 'controls', 'charts'],
  'stations/layers': [
    'theme',
    'state',
    'sounding',
    'controls',
    'charts',
    'depth',
    'parts',
    'chains',
    'stations/layers/tones',
  ],
  'stations/line': [
    'theme',
    'state',
    'audio',
    'sounding',
    'controls',
    'charts',
    'lanes',
    'midi',
    'recording',
    'stations/motion/kinds',
  ],
  'stations/sounding': ['theme', 'state', 'audio', 'sounding', 'controls', 'charts', 'depth', 'parts'],
  'stations/lock': ['theme', 'state', 'audio', 'sounding', 'controls', 'charts'],
  'stations/ground': ['api', 'theme', 'state', 'sounding', 'controls', 'charts', 'parts', 'stations/line'],
  stations: [
    'depth',
    'stations/grit',
    'stations/ground',
    'stations/layers',
    'stations/motion',
    'stations/line',
    'stations/lock',
    'stations/sounding',
  ],
  shell: [
    'api',
    'compare',
    'browser',
    'files',
    'theme',
    'state',
    'audio',
    'sounding',
    'controls',
    'charts',
    'depth',
    'recording',
    'stations',
  ],
  library: ['api', 'browser', 'files', 'theme', 'state', 'sounding', 'unsaved', 'controls', 'shell'],
  '.': ['api', 'theme', 'state', 'unsaved', 'report', 'shell', 'stations', 'library'],
};

const SERVER = {
  'database/migrations': [],
  'database/own': ['database'],
  database: ['database/migrations'],
  problem: [],
  settings: [],
  testing: [],
  doors: ['problem'],
  health: ['settings'],
  web: ['problem'],
  assets: ['database', 'problem', 'settings'],
  parts: ['database', 'problem'],
  states: ['database', 'problem', 'sounds'],
  soundings: ['database', 'problem'],
  sounds: ['database', 'problem'],
  demo: ['database', 'parts', 'sounds'],
  '.': [
    'assets',
    'database',
    'doors',
    'health',
    'parts',
    'problem',
    'settings',
    'soundings',
    'sounds',
    'states',
    'web',
  ],
  start: ['.', 'database', 'database/own', 'demo', 'parts', 'sounds'],
};

const CLI = { commands: [], '.': ['commands'] };

const TREES = {
  'packages/core/src': CORE,
  'packages/cli/src': CLI,
  'apps/web/src': WEB,
  'apps/server/src': SERVER,
};

/** Folders of a tree that hold files of their own. */
function folders(root, at = '.') {
  const entries = readdirSync(join(__dirname, root, at), { withFileTypes: true });
  const inner = entries
    .filter((entry) => entry.isDirectory())
    .flatMap((entry) => folders(root, at === '.' ? entry.name : `${at}/${entry.name}`));
  return entries.some((entry) => /\.tsx?$/.test(entry.name)) ? [at, ...inner] : inner;
}

/** A circle among the folders of a tree, as the names on the way; null where there is none. */
function circle(rules, name, way = []) {
  if (way.includes(name)) return [...way, name];
  for (const below of rules[name]) {
    const found = circle(rules, below, [...way, name]);
    if (found) return found;
  }
  return null;
}

for (const [root, rules] of Object.entries(TREES)) {
  const without = folders(root).filter((name) => !(name in rules));
  if (without.length > 0)
    throw new Error(`${root}: no rule says what these folders may import: ${without.join(', ')}`);
  for (const name of Object.keys(rules)) {
    const found = circle(rules, name);
    if (found) throw new Error(`${root}: the rules are a circle: ${found.join(' → ')}`);
  }
}

/** The files that stand in a folder itself. */
const own = (root, name) => (name === '.' ? `^${root}/[^/]+$` : `^${root}/${name}/[^/]+$`);

const PACKAGES = {
  dependencyTypes: ['npm', 'npm-dev', 'npm-peer', 'npm-optional', 'npm-bundled', 'core', 'aliased-workspace'],
};

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-stands-alone',
      comment:
        'The core computes: of packages it has a transform, and readers and writers of MIDI, WAV and CSV files.',
      severity: 'error',
      from: { path: '^packages/core/src/(?!testing/)' },
      to: { pathNot: ['^packages/core/src/', 'node_modules/(fft\\.js|midi-file|papaparse|wavefile)/'] },
    },
  ],
  allowed: [
    ...Object.entries(TREES).flatMap(([root, rules]) =>
      Object.entries(rules).map(([name, below]) => ({
        from: { path: own(root, name) },
        to: { path: [name, ...below].map((folder) => own(root, folder)) },
      })),
    ),
    { from: {}, to: PACKAGES },
    // The workspace's own packages, by their public index.
    { from: { path: '^(packages/cli|apps)/' }, to: { path: '^packages/core/dist/index\\.(js|d\\.ts)$' } },
    // Fonts and styles.
    { from: { path: '^apps/web/' }, to: { path: '\\.css$' } },
  ],
  allowedSeverity: 'error',
  options: {
    exclude: { path: '\\.test\\.tsx?$|\\.d\\.ts$' },
    doNotFollow: { path: 'node_modules|/dist/' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'node', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.d.ts'],
    },
  },
};
