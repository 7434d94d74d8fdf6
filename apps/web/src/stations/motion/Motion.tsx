export function Motion() { return null; }
