export function Lock() { return null; }
