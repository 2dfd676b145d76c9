const topAtStart = new WeakMap<Event, number>();

/**
 * Pixels that an element has scrolled since a drag began: dnd-kit counts its own scrolling into the
 * delta. 0 when asked for the first time.
 */
export function scrolledSince(start: Event, scroller: Element | null): number {
  const top = scroller?.scrollTop ?? 0;
  const before = topAtStart.get(start);
  if (before === undefined) topAtStart.set(start, top);
  return before === undefined ? 0 : top - before;
}
