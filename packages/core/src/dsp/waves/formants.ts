/**
 * First three formants of vowels in hertz, averages of 33 men, 28 women and 15 children: Peterson and Barney,
 * Control methods used in a study of the
 * vowels (1952), table II. From memory.
 */
export const FORMANTS = {
  men: {
    i: [270, 2290, 3010],
    ɪ: [390, 1990, 2550],
    ɛ: [530, 1840, 2480],
    æ: [660, 1720, 2410],
    ɑ: [730, 1090, 2440],
    ɔ: [570, 840, 2410],
    ʊ: [440, 1020, 2240],
    u: [300, 870, 2240],
    ʌ: [640, 1190, 2390],
    ɝ: [490, 1350, 1690],
  },
  women: {
    i: [310, 2790, 3310],
    ɪ: [430, 2480, 3070],
    ɛ: [610, 2330, 2990],
    æ: [860, 2050, 2850],
    ɑ: [850, 1220, 2810],
    ɔ: [590, 920, 2710],
    ʊ: [470, 1160, 2680],
    u: [370, 950, 2670],
    ʌ: [760, 1400, 2780],
    ɝ: [500, 1640, 1960],
  },
  children: {
    i: [370, 3200, 3730],
    ɪ: [530, 2730, 3600],
    ɛ: [690, 2610, 3570],
    æ: [1010, 2320, 3320],
    ɑ: [1030, 1370, 3170],
    ɔ: [680, 1060, 3180],
    ʊ: [560, 1410, 3310],
    u: [430, 1170, 3260],
    ʌ: [850, 1590, 3360],
    ɝ: [560, 1820, 2160],
  },
} as const;

export type Speaker = keyof typeof FORMANTS;
export type Vowel = keyof (typeof FORMANTS)['men'];

/** The fourth and fifth formant hardly move (common practice; scaled by the length of the vocal tract). */
const UPPER = { men: [3300, 3850], women: [3850, 4500], children: [4400, 5150] } as const;
/** Bandwidths in hertz and levels in dB of the five (common practice). */
export const FORMANT_WIDTHS_HZ = [60, 90, 120, 150, 200] as const;
export const FORMANT_LEVELS_DB = [0, -5, -11, -16, -20] as const;

/** The five formants of a vowel in hertz. */
export function formantsOf(speaker: Speaker, vowel: Vowel): readonly number[] {
  return [...FORMANTS[speaker][vowel], ...UPPER[speaker]];
}

/**
 * One cycle of a voiced source: the slope of a glottal flow that opens along a raised cosine and closes along
 * a quarter of one (Rosenberg, Effect of
 * glottal pulse shape on the quality of natural vowels, 1971, form C), opening for 0.4 and closing for 0.16
 * of the cycle. Swings
 * between about −1 and 0.4.
 */
export function glottalSlope(x: number): number {
  const open = 0.4;
  const close = 0.16;
  if (x < open) return 0.4 * Math.sin((Math.PI * x) / open);
  if (x < open + close) return -Math.sin((Math.PI * (x - open)) / (2 * close));
  return 0;
}
