import type { Layer, Tone, ToneKind } from '../../document/index.js';
import { HALF_BAND_DOWN_DELAY } from '../../dsp/index.js';
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
function standsAlone({ source }: Tone, stretchLinked: boolean): boolean {
  return source.kind === 'harmonics' && (source.stretchPct !== 0 || source.ringMs > 0 || stretchLinked);
}

/** What a kind of tone brings to the engine. */
interface ToneEngine {
  /** Makes one. `chosen` is the last sample chosen, shared by the voices of a layer. */
  make(tone: Tone, context: ToneContext, alone: boolean, chosen: Int32Array): ToneGenerator;
  /** Whether several copies of it play together (unison), spread from left to right. */
  readonly copied: boolean;
  /** Whether its two sides may differ by themselves. */
  readonly twoSided: boolean;
  /** Frames by which what it gives comes late. */
  readonly lateFrames: number;
  /** Whether it has a fundamental where its note stands. */
  readonly pitched: boolean;
}

const PLAIN = { copied: false, twoSided: false, lateFrames: 0, pitched: true };
const CYCLE: ToneEngine = {
  ...PLAIN,
  make: (tone, context) => new CycleTone(tone, context),
  copied: true,
};

const TONE_ENGINES = {
  shape: CYCLE,
  harmonics: {
    ...CYCLE,
    make: (tone, context, alone) => (alone ? new PartialTone(tone, context) : new CycleTone(tone, context)),
  },
  frames: CYCLE,
  fm: { ...PLAIN, make: (tone, context) => new FmTone(tone, context), lateFrames: HALF_BAND_DOWN_DELAY },
  vowel: { ...PLAIN, make: (tone, context) => new VowelTone(tone, context) },
  noise: { ...PLAIN, make: (tone, context) => new NoiseTone(tone, context), pitched: false },
  sample: {
    ...PLAIN,
    make: (tone, context, _alone, chosen) => new SampleTone(tone, context, chosen),
    twoSided: true,
  },
} satisfies { [K in ToneKind]: ToneEngine };

/** What a tone's kind brings to the engine. */
export const toneEngine = (kind: ToneKind): ToneEngine => TONE_ENGINES[kind];

/** Whether a tone sounds and its fundamental follows the notes. */
export const playsPitch = ({ on, pitchIn, levelDb, source }: Tone): boolean =>
  on && pitchIn === 'note' && levelDb > -60 && toneEngine(source.kind).pitched;

/** Whether a tone can sound as several copies: single cycles can, unless its harmonics stand each by itself. */
export const canCopy = (tone: Tone): boolean =>
  toneEngine(tone.source.kind).copied && !standsAlone(tone, false);

/** The generator of a tone. */
export const makeTone = (
  tone: Tone,
  context: ToneContext,
  stretchLinked: boolean,
  chosen: Int32Array,
): ToneGenerator =>
  toneEngine(tone.source.kind).make(tone, context, standsAlone(tone, stretchLinked), chosen);

/** Of each tone of a layer that sounds, whether its harmonics stand each by itself. */
export function mayStandAlone(layer: Layer, linked: (field: string) => boolean): boolean[] {
  return layer.tones.map(
    (tone, t) => tone.on && standsAlone(tone, linked(`tones.${t}.source.harmonics.stretchPct`)),
  );
}
