import { Random } from '../dsp/index.js';
import { lineLock } from '../figures/index.js';
import { anyKick, KICKS, LINES, soundWith } from '../testing/any-kick.js';
import { fitOf, harshness, measureLine, MOST_LOWS_DB, settles } from './index.js';

/**
 * Kicks of every kind under lines of every kind. A dozen seeded pairs stand for all; all of them are run by
 * `PAIRS=all npx jest --selectProjects=core --runTestsByPath packages/core/src/advice/any-kick.test.ts`, or a
 * share of them by PAIRS=0-99.
 */
const ALL = Array.from({ length: KICKS * LINES.length }, (_, pair) => pair);
const DOZEN = 12;

function chosen(): number[] {
  const asked = process.env.PAIRS;
  if (asked === 'all') return ALL;
  const range = /^(\d+)-(\d+)$/.exec(asked ?? '');
  if (range) return ALL.slice(Number(range[1]), Number(range[2]) + 1);
  // One of each line and more, spread over the kicks.
  const random = new Random(11);
  return Array.from(
    { length: DOZEN },
    (_, i) => LINES.length * Math.floor(((i + random.next()) * KICKS) / DOZEN) + (i % LINES.length),
  );
}

const RATE = 48000;
const pairs = chosen().map((pair) => ({
  kick: anyKick(Math.floor(pair / LINES.length)),
  line: LINES[pair % LINES.length],
}));

describe('any kick', () => {
  it.each(pairs.map(({ kick, line }) => [line, kick.name, kick] as const))(
    'a %s line under kick %s has an answer that holds what it promises',
    (line, _name, kick) => {
      const sound = kick.dress(soundWith(line));
      const { assets } = kick;
      const fit = fitOf(sound, { sampleRateHz: RATE, assets });
      expect(fit.why).toMatch(/\.$/);
      if (fit.before.meetings === 0) return;

      // Every meeting adds or is kept apart, by now or after a proposal that lowers the lows by less than 6
      // dB.
      const answer = fit.proposals.find(({ after, takes }) => after.adds && takes.lowsDb < MOST_LOWS_DB);
      // These kicks all stand still by their end: there is an answer for each.
      expect(fit.before.adds || answer !== undefined).toBe(true);

      // What is promised is measured: of the first that is offered, and of the answer.
      for (const { document, after } of new Set([
        ...fit.proposals.slice(0, 1),
        ...(answer ? [answer] : []),
      ])) {
        const measured = lineLock(document, measureLine(structuredClone(document), RATE, assets).locks);
        expect(measured).toMatchObject({
          adds: after.adds,
          keptApart: after.keptApart,
          meetings: after.meetings,
        });
        if (after.worstSumGainDb !== null)
          expect(Math.abs(measured.worstSumGainDb! - after.worstSumGainDb)).toBeLessThan(0.2);
        else expect(measured.worstSumGainDb).toBeNull();
      }

      // No gentler one that was tried would have held while a harsher stands above it; and nothing that takes
      // more than 3 dB of the lows is first while anything gentler holds.
      const holding = fit.tried.filter(({ after }) => settles(after));
      fit.proposals.forEach((proposal, place) => {
        for (const gentler of holding) {
          const at = fit.proposals.indexOf(gentler);
          // Of a line that holds by now only what betters it is offered.
          if (at < 0 && settles(fit.before)) continue;
          if (harshness(gentler.takes) < harshness(proposal.takes) - 0.5 && gentler.steps[0] !== 'level')
            expect(at >= 0 && at < place).toBe(true);
        }
      });
      if (fit.proposals.length > 0 && fit.proposals[0].takes.lowsDb > 3)
        expect(holding.every(({ takes }) => takes.lowsDb > 3)).toBe(true);
      // What gains next to nothing is offered only where it makes the line hold.
      for (const { gainDb, after } of fit.proposals)
        expect(
          gainDb >= 0.2 || (settles(after) && !settles(fit.before)) || (after.adds && !fit.before.adds),
        ).toBe(true);
    },
  );
});
