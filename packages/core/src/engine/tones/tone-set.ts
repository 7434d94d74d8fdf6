import type { Layer, Tone } from '../../document/index.js';
import { CycleTone } from './cycle-tone.js';
import { FmTone } from './fm-tone.js';
import { NoiseTone } from './noise-tone.js';
import { PartialTone } from './partial-tone.js';
import { SampleTone } from './sample-tone.js';
import type { ToneContext, ToneGenerator } from './tone.js';
import { VowelTone } from './vowel-tone.js';

/**
 * Whether a drawn tone's harmonics stand each by itself: where its tuning is spread, or may be by a link, or
 * they ring on.
 */
export function standsAlone({ source }: Tone, stretchLinked: boolean): boolean {
  return source.kind === 'harmonics' && (source.stretchPct !== 0 || source.ringMs > 0 || stretchLinked);
}

/** The generator of a tone. `chosen` is the last sample chosen, shared by the voices of a layer. */
export function makeTone(
  tone: Tone,
  context: ToneContext,
  stretchLinked: boolean,
  chosen: Int32Array,
): ToneGenerator {
  switch (tone.source.kind) {
    case 'fm':
      return new FmTone(tone, context);
    case 'vowel':
      return new VowelTone(tone, context);
    case 'noise':
      return new NoiseTone(tone, context);
    case 'sample':
      return new SampleTone(tone, context, chosen);
    default:
      return standsAlone(tone, stretchLinked) ? new PartialTone(tone, context) : new CycleTone(tone, context);
  }
}

/** Of each tone of a layer that sounds, whether its harmonics stand each by itself. */
export function mayStandAlone(layer: Layer, linked: (field: string) => boolean): boolean[] {
  return layer.tones.map(
    (tone, t) => tone.on && standsAlone(tone, linked(`tones.${t}.source.harmonics.stretchPct`)),
  );
}
