/**
 * What is wrong with the boxes of a page, one sentence each: interactive parts that are smaller than 24 by 24
 * pixels (WCAG 2.2, 2.5.8), stand over each other, or out of the panel or the window in which they are. Runs
 * in the page,
 * and so names nothing from outside.
 */
export function findBoxFaults(): string[] {
  const LEAST = 24;
  const SLACK = 1;
  const INTERACTIVE =
    'button, a[href], input, select, textarea, [role="slider"], [role="tab"], [role="switch"], [role="checkbox"], [role="radio"], [role="menuitem"], [tabindex="0"]';
  const visible = (element: Element) => {
    const { width, height } = element.getBoundingClientRect();
    const style = getComputedStyle(element);
    return (
      width > 0 &&
      height > 0 &&
      style.visibility !== 'hidden' &&
      style.display !== 'none' &&
      !(element instanceof HTMLInputElement && element.type === 'file')
    );
  };
  const nameOf = (element: Element) =>
    `${element.getAttribute('role') ?? element.tagName.toLowerCase()} “${(element.getAttribute('aria-label') ?? element.textContent ?? '').trim().slice(0, 40)}”`;
  /** What of an element can be seen: its box, cut by every ancestor that scrolls or hides. */
  const seen = (element: Element) => {
    let { left, top, right, bottom } = element.getBoundingClientRect();
    for (let up = element.parentElement; up; up = up.parentElement) {
      const style = getComputedStyle(up);
      const box = up.getBoundingClientRect();
      if (style.overflowX !== 'visible') {
        left = Math.max(left, box.left);
        right = Math.min(right, box.right);
      }
      if (style.overflowY !== 'visible') {
        top = Math.max(top, box.top);
        bottom = Math.min(bottom, box.bottom);
      }
    }
    return { left, top, right, bottom };
  };
  const faults: string[] = [];
  // A part within another (the input of a label, the handle in a drawing that is itself a part) belongs to
  // it.
  const parts = [...document.querySelectorAll(INTERACTIVE)].filter(
    (element) => visible(element) && !element.closest('[aria-hidden="true"]'),
  );
  for (const element of parts) {
    const box = element.getBoundingClientRect();
    // A line is as wide to the pointer as its stroke, which its box leaves out.
    const stroke = element instanceof SVGPathElement ? parseFloat(getComputedStyle(element).strokeWidth) : 0;
    const drawn = element instanceof SVGElement;
    // A note is as wide as it lasts.
    if (
      (Math.round(box.width + stroke) < LEAST && !element.matches('[data-note]')) ||
      Math.round(box.height + stroke) < LEAST
    )
      faults.push(`${nameOf(element)} is ${Math.round(box.width)} by ${Math.round(box.height)}`);
    if (box.left < -SLACK || box.right > window.innerWidth + SLACK)
      faults.push(`${nameOf(element)} stands out of the window`);
    const panel = element.closest('section, [role="dialog"], main, nav, footer, header');
    if (!panel || panel === element || drawn) continue;
    const frame = panel.getBoundingClientRect();
    // One that is there for its role alone has no box of its own.
    if (frame.width === 0) continue;
    if (box.left < frame.left - SLACK || box.right > frame.right + SLACK)
      faults.push(`${nameOf(element)} stands out of ${nameOf(panel)} sideways`);
    // Downward a panel that scrolls may hold more than it shows.
    else if (
      (box.top < frame.top - SLACK || box.bottom > frame.bottom + SLACK) &&
      panel.tagName !== 'MAIN' &&
      getComputedStyle(panel).overflowY === 'visible' &&
      panel.closest('main') === null
    )
      faults.push(`${nameOf(element)} stands out of ${nameOf(panel)}`);
  }
  const boxes = parts
    .map((element) => ({ element, ...seen(element) }))
    .filter(({ left, top, right, bottom }) => right - left > SLACK && bottom - top > SLACK);
  boxes.forEach((a, i) => {
    for (const b of boxes.slice(i + 1)) {
      if (a.element.contains(b.element) || b.element.contains(a.element)) continue;
      // Handles in one drawing may lie close together; each is reached by its own key.
      if (a.element instanceof SVGElement && b.element instanceof SVGElement) continue;
      const across = Math.min(a.right, b.right) - Math.max(a.left, b.left);
      const down = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
      if (across > SLACK && down > SLACK)
        faults.push(
          `${nameOf(a.element)} and ${nameOf(b.element)} stand over each other by ${Math.round(across)} by ${Math.round(down)}`,
        );
    }
  });
  return faults;
}
