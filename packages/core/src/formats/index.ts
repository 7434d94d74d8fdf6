export { readJson } from './bounded-json.js';
export * from './format-error.js';
export * from './file-name.js';
export { MOST_WAV_BYTES, readWavLayout, type WavLayout } from './wav-layout.js';
export * from './wav.js';
export * from './wav-loop.js';
export * from './midi.js';
export * from './midi-stream.js';
export * from './sound-file.js';
