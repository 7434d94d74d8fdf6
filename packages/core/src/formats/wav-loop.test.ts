import { WaveFile } from 'wavefile';
import { sine } from '../testing/signals.js';
import { writeWav } from './wav.js';
import { readWavLoop } from './wav-loop.js';

describe('what a WAV says of how it is to be played', () => {
  // Written by a package, not by hand: wavefile's own sampler chunk.
  it('is its note and its first loop, the end not included', () => {
    const wav = new WaveFile(writeWav([sine(100, 0.1)], 48000, '24'));
    Object.assign(wav, {
      smpl: {
        chunkId: 'smpl',
        chunkSize: 60,
        dwManufacturer: 0,
        dwProduct: 0,
        dwSamplePeriod: 20833,
        dwMIDIUnityNote: 43,
        dwMIDIPitchFraction: 0,
        dwSMPTEFormat: 0,
        dwSMPTEOffset: 0,
        dwNumSampleLoops: 1,
        dwSamplerData: 0,
        loops: [{ dwName: '', dwType: 0, dwStart: 480, dwEnd: 959, dwFraction: 0, dwPlayCount: 0 }],
      },
    });
    expect(readWavLoop(wav.toBuffer())).toEqual({ rootPitch: 43, loop: { from: 480, to: 960 } });
  });

  it('is nothing where nothing is said, or what is said makes no sense', () => {
    const bytes = writeWav([sine(100, 0.1)], 48000, '16');
    expect(readWavLoop(bytes)).toEqual({ rootPitch: null, loop: null });
    expect(readWavLoop(bytes.subarray(0, 20))).toEqual({ rootPitch: null, loop: null });
    const chunk = new Uint8Array(8 + 60);
    const view = new DataView(chunk.buffer);
    chunk.set([115, 109, 112, 108]);
    view.setUint32(4, 60, true);
    view.setUint32(8 + 12, 900, true);
    view.setUint32(8 + 28, 1, true);
    view.setUint32(8 + 44, 100, true);
    view.setUint32(8 + 48, 50, true);
    expect(readWavLoop(Uint8Array.from([...bytes.subarray(0, 12), ...chunk]))).toEqual({
      rootPitch: null,
      loop: null,
    });
  });
});
