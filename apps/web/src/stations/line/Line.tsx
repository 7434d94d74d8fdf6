export function Line() { return null; }
