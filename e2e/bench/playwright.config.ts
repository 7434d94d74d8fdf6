import base from '../playwright.config';

/** The figures of bin/bench that need a browser: run as tests are, but printed and not judged. */
export default {
  ...base,
  testDir: '.',
  outputDir: '../../test-results',
  testMatch: '*.bench.ts',
  retries: 0,
  reporter: 'line' as const,
};
