import { execFileSync } from 'node:child_process';
import { resolve } from 'node:path';

describe('the block path', () => {
  /**
   * Least growth of the heap in bytes a block over eight rounds, after the code is warm: code that is not
   * optimised yet puts every number on
   * the heap, so it is optimised in line with the run, and what a note or a hit calls after fewer calls than
   * it takes by default.
   */
  const growth = (change: string, enough: number): number => {
    const script = `
      import { createEngine, slackWater, trenchGrowl } from ${JSON.stringify(resolve(__dirname, '../../../dist/index.js'))};
      import v8 from 'node:v8';
      const sound = trenchGrowl();
      const held = (${change})(sound, slackWater);
      const engine = createEngine(held ?? sound, { sampleRateHz: 48000 });
      engine.play();
      engine.noteOn(29, 100);
      const left = new Float32Array(128), right = new Float32Array(128);
      for (let i = 0; i < 20000; i++) engine.render(left, right, 128);
      let least = Infinity;
      // What is compiled anew in a round stands on the heap as well: the least of up to 16 rounds counts.
      for (let round = 0; round < 16 && least >= 8000 * ${enough}; round++) {
        gc();
        const before = v8.getHeapStatistics().used_heap_size;
        for (let i = 0; i < 8000; i++) engine.render(left, right, 128);
        least = Math.min(least, v8.getHeapStatistics().used_heap_size - before);
      }
      console.log(least / 8000);`;
    return Number(
      execFileSync(
        process.execPath,
        [
          '--expose-gc',
          '--no-concurrent-recompilation',
          '--interrupt-budget=10000',
          '--input-type=module',
          '-e',
          script,
        ],
        { encoding: 'utf8' },
      ),
    );
  };

  // A number, closure or array on the heap takes 16 bytes or more: less than 1 byte a block is none.
  it('allocates nothing while a note is held, movers and all', () => {
    expect(growth('(sound) => { sound.kick.on = false; sound.line.notes = []; }', 1)).toBeLessThan(1);
  });

  // A beginning note or hit may put a few numbers on the heap, between two steps.
  it.each(['() => null', '(_sound, other) => other()'])(
    'stays under one number a block with the line and the kick playing (%s)',
    (change) => {
      expect(growth(change, 16)).toBeLessThan(16);
    },
  );
});
