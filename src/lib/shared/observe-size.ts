/**
 * How large the scrolled element of a virtual list is, told by an observer only: asking at once would lay the whole page out while it is
 * still being built. Until it tells, the list takes its `initialRect`.
 */
export function observeSize(
  list: { readonly scrollElement: Element | null },
  tell: (size: { width: number; height: number }) => void,
): (() => void) | undefined {
  if (!list.scrollElement) return undefined;
  const observer = new ResizeObserver(([entry]) => entry && tell({ width: entry.contentRect.width, height: entry.contentRect.height }));
  observer.observe(list.scrollElement);
  return () => observer.disconnect();
}
