/**
 * A name for a file from what a person called a sound: lower case letters, digits and hyphens; `otherwise`
 * where nothing is left.
 */
export function fileNameOf(text: string, otherwise = 'sound'): string {
  return (
    text
      .normalize('NFKD')
      .replace(/[^A-Za-z0-9]+/g, '-')
      .replace(/^-|-$/g, '')
      .toLowerCase() || otherwise
  );
}
