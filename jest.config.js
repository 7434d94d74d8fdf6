/** Unit tests of the core, the command line and the server; TypeScript through SWC, ES module paths without their endings. */
const transform = {
  '^.+\\.[tj]s$': [
    '@swc/jest',
    {
      jsc: {
        parser: { syntax: 'typescript', decorators: true },
        target: 'es2022',
        transform: { legacyDecorator: true, decoratorMetadata: true },
      },
      module: { type: 'commonjs' },
    },
  ],
};
const core = { '^@abyssal/core$': '<rootDir>/../../packages/core/src/index.ts' };
const common = {
  testEnvironment: 'node',
  transform,
  transformIgnorePatterns: ['/node_modules/'],
  // Tests run in a context of their own, in which looking up a global costs more than computing a sine.
  sandboxInjectedGlobals: [
    'Math',
    'Number',
    'Array',
    'Float32Array',
    'Float64Array',
    'Int32Array',
    'Uint8Array',
    'Uint32Array',
  ],
  moduleNameMapper: { '^(\\.{1,2}/.*)\\.js$': '$1' },
};
export default {
  // Tests assert no timings: a slow or busy machine only takes longer.
  testTimeout: 60_000,
  projects: [
    { ...common, displayName: 'core', rootDir: 'packages/core', testMatch: ['<rootDir>/src/**/*.test.ts'] },
    {
      ...common,
      displayName: 'cli',
      rootDir: 'packages/cli',
      testMatch: ['<rootDir>/src/**/*.test.ts'],
      moduleNameMapper: { ...common.moduleNameMapper, ...core },
    },
    {
      ...common,
      displayName: 'server',
      rootDir: 'apps/server',
      testMatch: ['<rootDir>/src/**/*.test.ts'],
      moduleNameMapper: { ...common.moduleNameMapper, ...core },
    },
    {
      ...common,
      displayName: 'web',
      rootDir: 'apps/web',
      testMatch: ['<rootDir>/src/**/*.test.ts'],
      moduleNameMapper: { ...common.moduleNameMapper, ...core },
    },
  ],
};
