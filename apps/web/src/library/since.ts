const ago = new Intl.RelativeTimeFormat('en', { numeric: 'auto' });

/** How long ago a time was, in words. */
export function since(iso: string): string {
  const minutes = (Date.now() - Date.parse(iso)) / 60_000;
  if (minutes < 1) return 'just now';
  if (minutes < 60) return ago.format(-Math.floor(minutes), 'minute');
  if (minutes < 60 * 24) return ago.format(-Math.floor(minutes / 60), 'hour');
  return ago.format(-Math.floor(minutes / (60 * 24)), 'day');
}
