import type { Layer, SoundDocument } from '../../document/index.js';
import { plain } from '../../units/index.js';
import { tidy, withLayer } from '../base/edits.js';
import type { MendKind, Way } from '../base/way.js';

const left = (amount: number) => 1 - amount;
const percent = (amount: number) => plain(100 * amount, 0);

/** Whether anything of a layer stands off the middle. */
const isWide = ({ on, panPct, tones }: Layer) =>
  on &&
  (panPct !== 0 ||
    tones.some((tone) => tone.on && (tone.panPct !== 0 || (tone.copies > 1 && tone.spreadPct !== 0))));

const narrowed = (layer: Layer, amount: number): Layer => ({
  ...layer,
  panPct: tidy(layer.panPct * left(amount), 0),
  tones: layer.tones.map((tone) => ({
    ...tone,
    panPct: tidy(tone.panPct * left(amount), 0),
    spreadPct: tidy(tone.spreadPct * left(amount)),
  })),
});

/** One layer's pan and spread drawn in. */
const ofLayer = (sound: SoundDocument, { id, name }: Layer): Way => ({
  id: `narrow-${id}`,
  title: (amount) => `Draw ${name} in by ${percent(amount)} %`,
  apply: (amount) => withLayer(sound, id, (layer) => narrowed(layer, amount)),
});

/** All layers drawn in alike. */
const ofLayers = (sound: SoundDocument): Way => ({
  id: 'narrow-layers',
  title: (amount) => `Draw every layer in by ${percent(amount)} %`,
  apply: (amount) => ({ ...sound, layers: sound.layers.map((layer) => narrowed(layer, amount)) }),
});

/** The bands of grit made narrower, the one in which most is lost or all of them. */
const ofBands = (sound: SoundDocument, ids: readonly string[], what: string): Way => ({
  id: `narrow-${what.replace(/ /g, '-')}`,
  title: (amount) => `Make ${what} ${percent(amount)} % narrower`,
  apply: (amount) => ({
    ...sound,
    grit: {
      ...sound.grit,
      bands: sound.grit.bands.map((band) =>
        ids.includes(band.id) ? { ...band, widthPct: tidy(band.widthPct * left(amount), 0) } : band,
      ),
    },
  }),
});

/** The band of grit that a frequency lies in. */
function bandAt({ grit: { bands } }: SoundDocument, hz: number): string {
  const above = bands.findIndex(({ fromHz }, i) => i > 0 && fromHz > hz);
  return bands[above < 0 ? bands.length - 1 : above - 1].id;
}

/** Narrows what is lost in mono. */
export const narrow: MendKind = {
  figures: ['lowMono', 'highMono'],
  ways: ({ document, pass: { mono } }, { id }) => {
    const wide = document.layers.filter(isWide);
    const { bands } = document.grit;
    const worst = bandAt(document, id === 'highMono' ? (mono.worstHighHz ?? 1000) : 100);
    return [
      ...wide.map((layer) => ofLayer(document, layer)),
      ...(wide.length > 1 ? [ofLayers(document)] : []),
      ofBands(document, [worst], bands.length > 1 ? 'the band that loses most' : 'the grit'),
      ...(bands.length > 1
        ? [
            ofBands(
              document,
              bands.map((band) => band.id),
              'all bands',
            ),
          ]
        : []),
    ];
  },
  against: () =>
    'What is lost in mono is no matter of pan, spread or the width of bands: look for a unit that widens, or for sides that are moved against each other.',
};
