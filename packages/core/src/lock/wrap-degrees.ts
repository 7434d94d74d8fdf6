/** An angle in degrees in (−180, 180]. */
export function wrapDegrees(degrees: number): number {
  const turned = (((degrees + 180) % 360) + 360) % 360;
  return turned === 0 ? 180 : turned - 180;
}
