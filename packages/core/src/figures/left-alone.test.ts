import { cleanUnit, type SoundDocument } from '../document/index.js';
import { slackWater } from '../demo/index.js';
import { signed } from '../units/index.js';
import { soundingOf } from './sounding.js';

const OPTIONS = { sampleRateHz: 24000 };
const WORDS = 'with the clean path left alone';

/** Slack Water with a phaser and a pan in its clean path: out of phase and not mono. */
function worked(alone: boolean): SoundDocument {
  const sound = slackWater();
  sound.grit.cleanPath = {
    ...sound.grit.cleanPath,
    on: true,
    alone,
    units: [
      cleanUnit('phaser', { id: 'phaser-1', centreHz: 60, rateHz: 0, spreadPct: 100, wetPct: 100 }),
      cleanUnit('pan', { id: 'pan-1', panPct: 60, aboveHz: 20 }),
    ],
  };
  return sound;
}

const figuresOf = (sound: SoundDocument) =>
  new Map(soundingOf(sound, OPTIONS).figures.map((judged) => [judged.id, judged]));

describe('the clean path that is worked on', () => {
  const figures = figuresOf(worked(false));
  const alone = figuresOf(worked(true));

  it.each(['kickLock', 'lowMono'] as const)('%s says what it would be with it left alone', (id) => {
    const was = alone.get(id)!.figure.value!;
    expect(figures.get(id)!.figure.value).not.toBeCloseTo(was, 1);
    expect(figures.get(id)!.detail).toMatch(new RegExp(`; ${WORDS} ${signed(was).replace('+', '\\+')}$`));
  });

  it('says nothing where it is left alone, where its units are off, and in other figures', () => {
    for (const { detail } of alone.values()) expect(detail).not.toContain(WORDS);
    for (const [id, { detail }] of figures)
      if (id !== 'kickLock' && id !== 'lowMono') expect(detail).not.toContain(WORDS);
    const off = worked(false);
    for (const unit of off.grit.cleanPath.units) unit.on = false;
    for (const { detail } of figuresOf(off).values()) expect(detail).not.toContain(WORDS);
  });
});
