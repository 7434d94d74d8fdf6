export * from './units/index.js';
export * from './music/index.js';
export * from './document/index.js';
export * from './engine/index.js';
export * from './measure/index.js';
export * from './lock/index.js';
export * from './figures/index.js';
export * from './advice/index.js';
export * from './formats/index.js';
export * from './demo/index.js';
export {
  bent,
  builtInFrames,
  cycleOf,
  formantsOf,
  fillHarmonics,
  framesFromAudio,
  HARMONIC_FILLS,
  harmonicDb,
  harmonicSpectrum,
  resample,
  seriesOf,
  shapeAt,
  SoftClip,
  StateVariablePair,
  tableLimitHz,
  waveBank,
  type CycleSpectrum,
  type HarmonicFill,
  type HarmonicTreatment,
} from './dsp/index.js';
