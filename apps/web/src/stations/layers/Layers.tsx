export function Layers() { return null; }
