import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import {
  cleanNote,
  cleanSound,
  cleanWavKick,
  FORMAT_VERSION,
  fitOf,
  mudLine,
  readSoundFile,
  readWav,
  slackWater,
  trenchGrowl,
  writeSoundFile,
  writeWav,
  type SoundDocument,
} from '@abyssal/core';

const COMMAND = resolve(__dirname, '../../../bin/abyssal');
const folder = mkdtempSync(join(tmpdir(), 'abyssal-cli-'));
afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
});

const write = (name: string, data: string | Uint8Array) => {
  writeFileSync(join(folder, name), data);
  return join(folder, name);
};
const sine = (hz: number, seconds: number, phaseDeg = 0) =>
  Float32Array.from(
    { length: seconds * 48000 },
    (_, i) =>
      Math.min(1, i / 960, (seconds * 48000 - 1 - i) / 960) *
      0.5 *
      Math.sin((2 * Math.PI * hz * i) / 48000 + (phaseDeg * Math.PI) / 180),
  );

function abyssal(...args: string[]): { code: number | null; json: any; words: string } {
  const { status, stdout, stderr } = spawnSync(COMMAND, args, { encoding: 'utf8' });
  return { code: status, json: stdout === '' ? null : JSON.parse(stdout), words: stderr.trim() };
}
const soundFile = (name: string, sound: SoundDocument, assets: Record<string, string> = {}) =>
  write(name, writeSoundFile({ sound, assets }));
const oneLine = ({ code, words }: { code: number | null; words: string }) => {
  expect(code).toBe(1);
  expect(words.split('\n')).toHaveLength(1);
  return words;
};

describe('abyssal render', () => {
  it('writes the loop and its stems, and says how long and how fast', () => {
    const started = performance.now();
    const { code, json } = abyssal(
      'render',
      soundFile('growl.json', trenchGrowl()),
      '--out',
      join(folder, 'out'),
      '--stems',
      '--bits',
      '16',
      '--rate',
      '44100',
    );
    const wallS = (performance.now() - started) / 1000;
    expect(code).toBe(0);
    expect(Object.keys(json)).toEqual(['files', 'durationS', 'tookS', 'timesRealTime']);
    expect(json.files.map((file: string) => file.split('/').pop())).toEqual([
      'trench-growl.wav',
      'trench-growl-kick.wav',
      'trench-growl-bass.wav',
      'trench-growl-sub.wav',
      'trench-growl-body.wav',
    ]);
    expect(json.durationS).toBeCloseTo((8 * 60) / 140, 3);
    // Its true speed: the loop once, over all that the command took.
    expect(json.timesRealTime * json.tookS).toBeCloseTo(json.durationS, 9);
    expect(json.tookS).toBeLessThan(wallS);
    expect(json.tookS).toBeGreaterThan(0);
    const wav = readWav(readFileSync(json.files[0]));
    expect([wav.sampleRateHz, wav.bits, wav.channels.length]).toEqual([44100, 16, 2]);
    expect(wav.channels[0].reduce((most, x) => Math.max(most, Math.abs(x)), 0)).toBeGreaterThan(0.3);
  });

  it('renders a sound whose kick is bundled, and refuses one whose kick is not there', () => {
    const wav = Buffer.from(writeWav([sine(48, 0.3)], 48000, '24'));
    const hash = createHash('sha256').update(wav).digest('hex');
    const sound = trenchGrowl();
    sound.kick = { ...sound.kick, source: 'wav', wav: cleanWavKick(hash, 'post.wav') };
    expect(
      abyssal('render', soundFile('bundled.json', sound, { [hash]: wav.toString('base64') }), '--out', folder)
        .code,
    ).toBe(0);
    expect(oneLine(abyssal('render', soundFile('bare.json', sound), '--out', folder))).toMatch(
      /the WAV "post\.wav" is not in the sound file/,
    );
    expect(
      oneLine(
        abyssal(
          'render',
          soundFile('changed.json', sound, {
            [hash]: Buffer.from(writeWav([sine(50, 0.3)], 48000, '24')).toString('base64'),
          }),
          '--out',
          folder,
        ),
      ),
    ).toMatch(/a recording in it has changed/);
  });

  it.each([
    [['--rate', 'fast'], /--rate fast/],
    [['--bits', '12'], /--bits 12/],
  ])('refuses %j in one line', (flags, sentence) => {
    expect(
      oneLine(abyssal('render', soundFile('growl.json', trenchGrowl()), '--out', folder, ...flags)),
    ).toMatch(sentence);
  });
});

describe('abyssal measure', () => {
  it('gives every figure of a file', () => {
    const { code, json } = abyssal(
      'measure',
      write('tone.wav', writeWav([sine(55, 4), sine(55, 4)], 48000, '32f')),
    );
    expect(code).toBe(0);
    expect(Object.keys(json)).toEqual([
      'sampleRateHz',
      'channels',
      'durationS',
      'loudness',
      'truePeakDbtp',
      'samplePeakDbfs',
      'crestDb',
      'dc',
      'pitch',
      'mono',
      'clicks',
    ]);
    expect(Object.keys(json.loudness)).toEqual([
      'integratedLufs',
      'shortTermMaxLufs',
      'momentaryMaxLufs',
      'rangeLu',
    ]);
    expect(json.samplePeakDbfs).toBeCloseTo(-6.02, 1);
    expect(json.pitch).toMatchObject({ note: 'A1' });
    expect(json.pitch.hz).toBeCloseTo(55, 1);
    expect(json.mono.lowLossDb).toBe(0);
    expect(json.mono.bands).toHaveLength(9);
    expect(Object.keys(json.mono.bands[0])).toEqual(['centreHz', 'lossDb', 'correlation']);
    expect(json.clicks).toEqual([]);
  });

  it('gives null for what silence has not', () => {
    const { code, json } = abyssal(
      'measure',
      write('silence.wav', writeWav([new Float32Array(48000)], 48000, '32f')),
    );
    expect(code).toBe(0);
    expect([
      json.loudness.integratedLufs,
      json.truePeakDbtp,
      json.samplePeakDbfs,
      json.crestDb,
      json.pitch.hz,
      json.mono.lowLossDb,
    ]).toEqual([null, null, null, null, null, null]);
  });

  it.each([
    ['a text called .wav', () => write('text.wav', 'only words'), /not a WAV file/],
    [
      'a truncated WAV',
      () => write('cut.wav', writeWav([sine(50, 1)], 48000, '16').slice(0, 999)),
      /is cut off/,
    ],
    [
      'a WAV without samples',
      () => write('none.wav', writeWav([new Float32Array(0)], 48000, '16')),
      /holds no samples/,
    ],
    ['a file that is not there', () => join(folder, 'nowhere.wav'), /there is no such file/],
    ['a folder', () => folder, /EISDIR|cannot be read|folder/],
  ])('refuses %s in one line', (_name, file, sentence) => {
    expect(oneLine(abyssal('measure', file()))).toMatch(sentence);
  });

  it('refuses a file of 2 GB without reading it', () => {
    const file = join(folder, 'huge.wav');
    spawnSync('truncate', ['-s', '2G', file]);
    expect(oneLine(abyssal('measure', file))).toMatch(/larger than 50 MB/);
  });
});

describe('abyssal systems', () => {
  it('lists seven with all their numbers', () => {
    const { code, json } = abyssal('systems');
    expect(code).toBe(0);
    expect(json.systems.map(({ id }: { id: string }) => id)).toEqual([
      'studio',
      'club',
      'car',
      'earbuds',
      'radio',
      'laptop',
      'phone',
    ]);
    expect(json.systems[1]).toMatchObject({
      name: 'Club stack',
      channels: 'mono below 120 Hz',
      playsDbSpl: 98,
      mostDbSpl: 125,
      response: [
        { kind: 'high-pass', hz: 30, order: 4 },
        { kind: 'low shelf', hz: 80, gainDb: 9 },
      ],
    });
    expect(json.systems[6].noiseDbSpl[0]).toEqual({ centreHz: 31.5, perOctave: 56 });
  });
});

describe('abyssal translate', () => {
  const f1 = () => write('f1.wav', writeWav([sine(43.654, 1)], 48000, '32f'));

  it('says of a sine that the phone loses it and the studio has it felt', () => {
    const { code, json } = abyssal('translate', f1(), '--note', 'F1');
    expect(code).toBe(0);
    expect(Object.keys(json)).toEqual(['note', 'f0Hz', 'systems']);
    expect(json.note).toBe('F1');
    expect(json.f0Hz).toBeCloseTo(43.654, 1);
    const verdicts = json.systems.map(({ id, verdict }: Record<string, string>) => [id, verdict]);
    expect(Object.fromEntries(verdicts)).toMatchObject({ studio: 'felt', club: 'felt', phone: 'lost' });
    expect(Object.keys(json.systems[0])).toEqual(['id', 'name', 'verdict', 'marginDb', 'harmonics']);
    expect(json.systems[0].harmonics).toHaveLength(24);
    // Half of full scale, −6.02 dBFS, 9.7 dB over the system's reference of 80 dB SPL less its high-pass at 32 Hz.
    const [first] = json.systems[0].harmonics;
    expect(first.splDb).toBeCloseTo(80 + 18 - 6.02 - 10 * Math.log10(1 + (32 / 43.654) ** 8), 1);
    expect(first.audible).toBe(true);
  });

  it('takes the systems that are named, says what it cannot tell, and refuses others in one line', () => {
    const one = abyssal('translate', f1(), '--note', 'f1', '--systems', 'phone, laptop').json;
    expect(one.systems.map(({ id }: { id: string }) => id)).toEqual(['phone', 'laptop']);
    const silent = write('silent.wav', writeWav([new Float32Array(48000)], 48000, '32f'));
    const told = abyssal('translate', silent, '--note', 'F1');
    expect([told.code, told.words]).toEqual([0, 'cannot tell: there is only silence']);
    expect(told.json).toMatchObject({ f0Hz: null, systems: { length: 7 } });
    expect(told.json.systems[0]).toMatchObject({ verdict: null, marginDb: null, harmonics: [] });
    expect(oneLine(abyssal('translate', f1(), '--note', 'H1'))).toMatch(/--note H1: give a note/);
    expect(oneLine(abyssal('translate', f1(), '--note', 'F1', '--systems', 'tv'))).toMatch(
      /no system “tv”; there are studio/,
    );
  });
});

describe('abyssal sounding', () => {
  it('measures everything of a sound against its targets, also with another kick', () => {
    const bare = soundFile('slack.json', slackWater());
    const { code, json } = abyssal('sounding', bare);
    expect(code).toBe(0);
    expect(Object.keys(json)).toEqual([
      'format',
      'formatVersion',
      'name',
      'key',
      'tempoBpm',
      'bars',
      'passes',
      'figures',
      'systems',
      'mono',
      'kick',
      'notes',
      'againstKick',
      'glare',
      'clicks',
      'masking',
      'spectrum',
    ]);
    expect(json.figures[0]).toMatchObject({ id: 'heard', value: 4, outOf: 7, verdict: 'falls short' });
    expect(json.systems.find(({ id }: { id: string }) => id === 'phone').notes[0].verdict).toBe('lost');
    const kick = write('other-kick.wav', writeWav([sine(60, 0.4)], 48000, '32f'));
    const other = abyssal('sounding', bare, '--kick', kick).json;
    expect(other.kick.tailHz).toBeCloseTo(60, 0);
    expect(oneLine(abyssal('sounding', join(folder, 'nowhere.json')))).toMatch(/there is no such file/);
  });
});

describe('abyssal mend', () => {
  it('mends what falls short without harm, says what it did and could not do, and writes the sound', () => {
    const out = join(folder, 'mended.json');
    const bare = cleanSound('Bare');
    bare.ground = { ...bare.ground, bars: 1 };
    bare.kick.hits = bare.kick.hits.slice(0, 4);
    bare.line.notes = bare.line.notes.slice(0, 4);
    bare.layers = [bare.layers[0]];
    const { code, json } = abyssal('mend', soundFile('bare.json', bare), '--apply', out);
    expect(code).toBe(0);
    expect(Object.keys(json)).toEqual(['applied', 'left', 'before', 'after']);
    const heard = (figures: { id: string; value: number }[]) =>
      figures.find(({ id }) => id === 'heard')!.value;
    expect(heard(json.before)).toBeLessThan(7);
    expect(heard(json.after)).toBe(7);
    expect(json.applied[0]).toMatchObject({ figure: 'heard', after: { verdict: 'holds' } });
    // What was written is what was measured.
    const again = abyssal('sounding', out).json.figures.find(({ id }: { id: string }) => id === 'heard');
    expect(again.value).toBe(7);
    for (const { verdict, id } of json.before)
      if (verdict === 'holds')
        expect(json.after.find((figure: { id: string }) => figure.id === id).verdict).toBe('holds');
  });
});

describe('abyssal compare', () => {
  it('sets a sound and a WAV side by side, and by thirds at one loudness', () => {
    const mid = writeWav([sine(200, 2)], 48000, '32f');
    const soft = writeWav([sine(200, 2).map((x) => 0.1 * x)], 48000, '32f');
    const { code, json } = abyssal('compare', write('mid.wav', mid), write('soft.wav', soft));
    expect(code).toBe(0);
    expect(Object.keys(json)).toEqual(['a', 'b', 'figures', 'thirds']);
    expect(json.b.matchedDb).toBeCloseTo(20, 1);
    for (const { differenceDb } of json.thirds.slice(5, 15)) expect(Math.abs(differenceDb)).toBeLessThan(0.1);
    const crest = json.figures.find(({ id }: { id: string }) => id === 'crestDb');
    expect(crest.a).toBeCloseTo(crest.b, 1);

    const against = abyssal(
      'compare',
      soundFile('growl-c.json', trenchGrowl()),
      join(folder, 'mid.wav'),
    ).json;
    expect([against.a.kind, against.b.kind]).toEqual(['sound', 'wav']);
    const at = (hz: number) =>
      against.thirds.find((each: { hz: number }) => Math.abs(each.hz / hz - 1) < 0.05).differenceDb;
    // A lone tone of 200 Hz has more there than a growl as loud, and less of its sub and of its tops.
    expect(at(200)).toBeGreaterThan(3);
    expect(at(50)).toBeLessThan(-20);
    expect(at(2000)).toBeLessThan(-20);
  });
});

describe('abyssal lock', () => {
  it('measures bass against kick', () => {
    const kick = write('kick.wav', writeWav([sine(49, 1.2)], 48000, '32f'));
    const bass = write('bass.wav', writeWav([sine(49, 1.2, 60)], 48000, '32f'));
    const { code, json } = abyssal('lock', kick, bass);
    expect(code).toBe(0);
    expect(Object.keys(json)).toEqual([
      'belowHz',
      'sumGainDb',
      'bestSumGainDb',
      'bearingDeg',
      'bestTurnDeg',
      'nudgeMs',
      'coherence',
      'noPhase',
      'kickTail',
    ]);
    expect(json.belowHz).toBe(120);
    expect(json.sumGainDb).toBeCloseTo(1.76, 1);
    expect(json.bestSumGainDb).toBeCloseTo(3.01, 1);
    expect(json.bearingDeg).toBeCloseTo(60, 0);
    expect(json.bestTurnDeg).toBeCloseTo(-60, 0);
    expect(json.nudgeMs).toBeCloseTo((1000 * 60) / 360 / 49, 1);
    expect(json.kickTail).toMatchObject({ note: 'G1', steady: true });
    const apart = abyssal('lock', kick, write('apart.wav', writeWav([sine(60, 1.2)], 48000, '32f')));
    expect(apart.words).toMatch(
      /^no bearing: different pitches: the kick at G1, the bass at B1 −\d\d ct, 35\d ct apart; they beat 11 times a second$/,
    );
    expect(apart.json.noPhase).toMatchObject({ cause: 'different pitches' });
    expect(Math.abs(apart.json.noPhase.beatsHz - 11)).toBeLessThan(0.2);
  });

  it('says why there is no lock, and keeps its keys', () => {
    const kick = write('kick.wav', writeWav([sine(49, 1.2)], 48000, '32f'));
    const { code, json, words } = abyssal(
      'lock',
      kick,
      write('nothing.wav', writeWav([new Float32Array(48000)], 48000, '32f')),
    );
    expect(code).toBe(0);
    expect(words).toBe('no lock: no bass sounds here');
    expect([json.sumGainDb, json.bearingDeg, json.nudgeMs]).toEqual([null, null, null]);
    expect(oneLine(abyssal('lock', kick, kick, '--below', '10'))).toMatch(/--below 10/);
  });
});

describe('abyssal fit', () => {
  it('applies the best that it finds, and what it says is what is measured of the written sound', () => {
    const out = join(folder, 'fitted.json');
    const { code, json } = abyssal('fit', soundFile('mud.json', mudLine()), '--apply', out);
    expect(code).toBe(0);
    expect(json.before.worstSumGainDb).toBeLessThan(-1);
    expect(json.proposals[0]).toMatchObject({ id: json.applied, after: json.after });
    expect(json.after.worstSumGainDb - json.before.worstSumGainDb).toBeCloseTo(json.proposals[0].gainDb, 1);
    const { sound } = readSoundFile(readFileSync(out, 'utf8'));
    const again = fitOf(sound, { sampleRateHz: 48000 });
    expect(Math.abs(again.before.worstSumGainDb! - json.after.worstSumGainDb)).toBeLessThan(0.2);
  });

  it('takes a WAV as the kick and bundles it, and says when there is nothing to fit', () => {
    const kick = write(
      'kick.wav',
      Buffer.from(writeWav([sine(46, 0.3).map((x, i) => x * Math.exp(-i / 5000))], 48000, '24')),
    );
    const { json } = abyssal(
      'fit',
      soundFile('mud2.json', mudLine()),
      '--kick',
      kick,
      '--apply',
      join(folder, 'with-kick.json'),
    );
    const { sound, assets } = readSoundFile(readFileSync(join(folder, 'with-kick.json'), 'utf8'));
    expect(sound.kick).toMatchObject({ source: 'wav', wav: { fileName: 'kick.wav' } });
    expect(Object.keys(assets)).toEqual([sound.kick.wav!.asset]);
    expect(json.before.notesMeetingKick).toBeGreaterThan(0);
    expect(json.notes.flatMap(({ hits }: { hits: object[] }) => hits)).toHaveLength(json.before.meetings);
    const silent = abyssal(
      'fit',
      soundFile('still.json', { ...mudLine(), line: { notes: [] } }),
      '--apply',
      join(folder, 'still-out.json'),
    );
    expect(silent.code).toBe(0);
    expect(silent.words).toMatch(/nothing to fit/);
    expect(silent.json).toMatchObject({ applied: null, proposals: [] });
    expect(
      oneLine(abyssal('fit', join(folder, 'mud.json'), '--kick', 'none.wav', '--apply', 'x.json')),
    ).toMatch(/none\.wav: there is no such file/);
  });
});

describe('abyssal fit under a held line', () => {
  it('tunes a WAV kick of another key to it and restarts the bass with the kick: every hit adds, and that is said', () => {
    const tail = Float32Array.from({ length: 28800 }, (_, i) => {
      const t = i / 48000;
      return (
        0.7 *
        Math.sin(2 * Math.PI * (53.8 * t + 2 * (1 - Math.exp(-t * 90)))) *
        Math.exp(-t / 0.16) *
        Math.min(1, (0.6 - t) / 0.05)
      );
    });
    const sound = cleanSound();
    sound.line.notes = [0, 1920].map((tick) => cleanNote({ tick, ticks: 1860 }));
    const out = join(folder, 'held.json');
    const { code, json } = abyssal(
      'fit',
      soundFile('held-in.json', sound),
      '--kick',
      write('tail.wav', Buffer.from(writeWav([tail], 48000, '24'))),
      '--apply',
      out,
    );
    expect(code).toBe(0);
    expect(json.why).toMatch(
      /^Your kick ends on A1 −\d\d ct; the line holds F1\. They beat 10 times a second and never lock\.$/,
    );
    expect(json.before).toMatchObject({
      worstSumGainDb: null,
      meetings: 8,
      differentPitches: 8,
      verdict: 'watch',
    });
    expect(json.applied).toMatch(/^retune-restart/);
    expect(json.proposals[0].steps.slice(0, 2)).toEqual(['retune', 'restart']);
    expect(json.after).toMatchObject({ everyHitAdds: true, verdict: 'holds' });
    expect(json.notes[0].hits[0]).toMatchObject({
      hit: 0,
      sumGainDb: null,
      reason: expect.stringMatching(/^different pitches: /),
    });
    const fitted = readSoundFile(readFileSync(out, 'utf8')).sound;
    expect(fitted.layers.map(({ voice }) => voice.restart)).toEqual(['note and kick', 'note']);
  });
});

describe('abyssal check', () => {
  it('takes a valid sound', () => {
    expect(abyssal('check', soundFile('growl.json', trenchGrowl()))).toEqual({
      code: 0,
      json: { valid: true, problems: [] },
      words: '',
    });
  });

  it('lists what is wrong with its path', () => {
    const sound = trenchGrowl();
    sound.layers[1].filters[0].cutoffHz = 40000;
    const result = abyssal('check', soundFile('bad.json', sound));
    expect(result.json).toEqual({
      valid: false,
      problems: [{ path: 'layers[1].filters[0].cutoffHz', message: '40000 is above 20000' }],
    });
    expect(oneLine(result)).toBe('not valid: layers[1].filters[0].cutoffHz: 40000 is above 20000');
  });

  it.each([
    [JSON.stringify({ format: 'abyssal.sound', formatVersion: FORMAT_VERSION + 1 }), /newer Abyssal/],
    ['not json', /not JSON/],
    [JSON.stringify(trenchGrowl()).replace('"tempoBpm":140', '"tempoBpm":NaN'), /not JSON/],
  ])('says what is wrong with %.40s', (text, sentence) => {
    expect(oneLine(abyssal('check', write('odd.json', text)))).toMatch(sentence);
  });
});

describe('abyssal grit', () => {
  const chain = (name: string, value: unknown) => write(name, JSON.stringify(value));
  const out = join(folder, 'rough.wav');
  const input = () => write('in.wav', writeWav([sine(100, 0.5)], 48000, '32f'));

  it('runs a chain over a WAV: what comes out is as long, and clipped', () => {
    const { code, json } = abyssal(
      'grit',
      chain('clip.json', {
        format: 'abyssal.chain',
        formatVersion: 1,
        units: [{ kind: 'hard clip', driveDb: 30 }],
      }),
      input(),
      '--out',
      out,
    );
    expect(code).toBe(0);
    expect(json).toMatchObject({ file: out, channels: 1, sampleRateHz: 48000, durationS: 0.5 });
    const { channels, bits } = readWav(readFileSync(out));
    expect([bits, channels.length, channels[0].length]).toEqual([32, 1, 24000]);
    const [y] = channels;
    // A square wave: nearly everywhere at its ends.
    const flat = y.slice(4800, 19200).filter((x) => Math.abs(Math.abs(x) - 1) < 0.05).length;
    expect(flat / 14400).toBeGreaterThan(0.9);
  });

  it('runs all of grit: empty bands leave the level of every frequency, and units of a band act on it alone', () => {
    const grit = (units: object[]) => ({
      format: 'abyssal.grit',
      formatVersion: 1,
      crossoversHz: [90, 300, 1600],
      bands: [{ units: [] }, { units: [] }, { units }, { units: [] }],
    });
    const level = (hz: number, units: object[]) => {
      const wav = write('tone.wav', writeWav([sine(hz, 0.5)], 48000, '32f'));
      expect(abyssal('grit', chain('grit.json', grit(units)), wav, '--out', out).code).toBe(0);
      const [y] = readWav(readFileSync(out)).channels;
      return 20 * Math.log10(Math.max(...y.slice(4800, 19200)) / 0.5);
    };
    expect(Math.abs(level(300, []))).toBeLessThan(0.05);
    // What is left are the skirts of the bands beside it.
    expect(level(700, [{ kind: 'tilt', tiltDb: 0, levelDb: -20 }])).toBeLessThan(-14);
    expect(level(45, [{ kind: 'tilt', tiltDb: 0, levelDb: -20 }])).toBeCloseTo(0, 1);
  });

  it.each([
    ['text', 'only words', /this is no chain/],
    ['another format', { format: 'abyssal.sound', formatVersion: 8 }, /format: this is no chain/],
    ['a newer version', { format: 'abyssal.chain', formatVersion: 2, units: [] }, /of version 2/],
    [
      'a kind that is none',
      { format: 'abyssal.chain', formatVersion: 1, units: [{ kind: 'flux' }] },
      /^units\[0\]: kind "flux" is none of soft clip/,
    ],
    [
      'a number out of bounds',
      { format: 'abyssal.chain', formatVersion: 1, units: [{ kind: 'hard clip', driveDb: 99 }] },
      /^units\[0\]\.driveDb: 99 is above 48/,
    ],
    [
      'a field that is none',
      { format: 'abyssal.chain', formatVersion: 1, units: [{ kind: 'tilt', drive: 1 }] },
      /^units\[0\]\.drive: is not a known field/,
    ],
    [
      'nine units',
      {
        format: 'abyssal.chain',
        formatVersion: 1,
        units: Array.from({ length: 9 }, () => ({ kind: 'tilt' })),
      },
      /9 entries, more than 8/,
    ],
    [
      'an id twice',
      {
        format: 'abyssal.chain',
        formatVersion: 1,
        units: [
          { kind: 'tilt', id: 'a' },
          { kind: 'tilt', id: 'a' },
        ],
      },
      /"a" appears twice/,
    ],
    [
      'bands without their crossovers',
      { format: 'abyssal.grit', formatVersion: 1, crossoversHz: [], bands: [{}, {}] },
      /^bands: there are 2/,
    ],
    [
      'crossovers out of order',
      { format: 'abyssal.grit', formatVersion: 1, crossoversHz: [900, 300], bands: [{}, {}, {}] },
      /300 is not above 900/,
    ],
  ])('refuses %s in one line', (_name, value, sentence) => {
    const file = write('wrong.json', typeof value === 'string' ? value : JSON.stringify(value));
    expect(oneLine(abyssal('grit', file, input(), '--out', out))).toMatch(sentence);
  });

  it('refuses a tempo that is none', () => {
    const file = chain('empty.json', { format: 'abyssal.chain', formatVersion: 1, units: [] });
    expect(oneLine(abyssal('grit', file, input(), '--out', out, '--tempo', 'fast'))).toMatch(/--tempo fast/);
  });
});
