/** What a set of texts has to lose and to gain to become another. */
export const changesOf = (before: readonly string[], after: readonly string[]) => ({
  gone: before.filter((each) => !after.includes(each)),
  fresh: after.filter((each) => !before.includes(each)),
});
