export function Ground() { return null; }
