/** The first of the names 1, 2, 3 … that nothing in a list has for its id. */
export function freeId(list: readonly { readonly id: string }[], name: (n: number) => string): string {
  for (let n = 1; ; n++) {
    const id = name(n);
    if (!list.some((each) => each.id === id)) return id;
  }
}
