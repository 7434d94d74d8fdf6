/**
 * Has the field in which something is being typed take it, as it does when it is left: a page that is hidden,
 * reloaded or gone back from leaves no field.
 */
export function takeTyped(): void {
  const field = document.activeElement;
  if (field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement) field.blur();
}
