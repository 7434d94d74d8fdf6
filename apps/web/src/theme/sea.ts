/**
 * The colours of the sea chart, by day (paper) and by night (night watch). Every colour of the interface
 * comes from here: as CSS
 * variables by `sea`, and as literal values, where a canvas needs them, by `useSeaColours`.
 */
export interface SeaColours {
  readonly paper: string;
  readonly sheet: string;
  readonly rule: string;
  readonly hair: string;
  readonly ink: string;
  readonly ink2: string;
  readonly onInk: string;
  readonly tint1: string;
  readonly tint2: string;
  readonly tint3: string;
  readonly tint4: string;
  readonly tint5: string;
  readonly tint6: string;
  readonly kick: string;
  readonly note: string;
  readonly holds: string;
  readonly watch: string;
  readonly short: string;
  readonly knock: string;
}

export const PAPER: SeaColours = {
  paper: '#F5F1E6',
  sheet: '#FBF9F2',
  rule: '#C9C0A8',
  hair: '#E2DBC8',
  ink: '#12293B',
  ink2: '#4B6070',
  onInk: '#FBF9F2',
  tint1: '#E3EFF3',
  tint2: '#C4DEE8',
  tint3: '#94C1D4',
  tint4: '#5B98B5',
  tint5: '#2C6A8C',
  tint6: '#123F5C',
  kick: '#A8452B',
  note: '#9E2A63',
  holds: '#2F7A56',
  watch: '#8A5C08',
  short: '#B3312C',
  knock: '#D9B36C',
};

export const NIGHT_WATCH: SeaColours = {
  paper: '#0B1823',
  sheet: '#102331',
  rule: '#3B5366',
  hair: '#233A4B',
  ink: '#E6E0CF',
  ink2: '#A3B4BF',
  onInk: '#0B1823',
  tint1: '#14303F',
  tint2: '#1C4358',
  tint3: '#2F6A86',
  tint4: '#4E90AE',
  tint5: '#83B9D0',
  tint6: '#BBDCE8',
  kick: '#E08A6B',
  note: '#E07AAE',
  holds: '#6CC296',
  watch: '#DDAA4C',
  short: '#EE8079',
  knock: '#D9B36C',
};

export const SEA_NAMES = Object.keys(PAPER) as (keyof SeaColours)[];

/** The colours as CSS variables: they follow the scheme by themselves. */
export const sea = Object.fromEntries(
  SEA_NAMES.map((name) => [name, `var(--mui-palette-sea-${name})`]),
) as unknown as SeaColours;

/** Tint of a layer by its role, deep to shallow. */
export const ROLE_TINT: Readonly<Record<string, keyof SeaColours>> = {
  sub: 'tint6',
  body: 'tint4',
  edge: 'tint3',
  knock: 'knock',
};
