import { OptionError, readOptions } from './options.js';

describe('start options', () => {
  it("have defaults in the project's folder", () => {
    expect(readOptions([], '/p')).toEqual({
      port: 4820,
      data: '/p/data',
      demo: true,
      web: '/p/apps/web/dist',
      recordingsGb: 20,
    });
  });

  it('are read', () => {
    expect(readOptions(['--port', '0', '--data', '/d', '--no-demo'], '/p')).toMatchObject({
      port: 0,
      data: '/d',
      demo: false,
    });
    expect(readOptions(['--port=81', '--recordings-gb', '0.5'], '/p')).toMatchObject({
      port: 81,
      recordingsGb: 0.5,
    });
  });

  it.each([
    [['--port', 'x'], /--port x: give a number/],
    [['--port', '70000'], /0 to 65535/],
    [['--recordings-gb', '0'], /above 0/],
    [['--colour'], /--help/],
    [['sound.json'], /--help/],
  ])('refuse %j in one sentence', (args, sentence) => {
    expect(() => readOptions(args, '/p')).toThrow(OptionError);
    expect(() => readOptions(args, '/p')).toThrow(sentence);
  });
});
