/** Sizes of type in pixels, from marks in drawings up to a figure's numeral. */
export const TYPE = {
  /** Marks of axes and what stands in drawings. */
  mark: 12,
  /** What explains. */
  note: 12.5,
  /** Controls and what is told. */
  control: 13,
  /** Labels of rows. */
  label: 13.5,
  /** Text, and the headings of panels. */
  body: 14,
  /** Names. */
  name: 15,
  /** Names of stations and sounds. */
  title: 17,
  /** Numerals: of a reading, of the tempo, of a figure. */
  reading: 20,
  numeral: 23,
  figure: 27,
} as const;
