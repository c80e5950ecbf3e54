import { useVirtualizer } from "@tanstack/react-virtual";
import { type RefObject, useLayoutEffect, useState } from "react";

/** Up to this many rows all are there: find-in-page, keyboard and print see them. */
const SHORT = 60;
/** px kept ready beyond either edge of what is in sight */
const BEYOND = 300;

interface LongList {
  /** the rows to render */
  indexes: number[];
  /** px that the rows before and after them take */
  before: number;
  after: number;
  /** tells the height a row really has; the row carries `data-index` */
  measure: ((row: HTMLElement | null) => void) | undefined;
  /** brings a row into sight that may not be rendered */
  reveal: (index: number) => void;
}

/**
 * A list that renders only what is in sight once it is long.
 * @param estimate px of a row nobody has seen yet
 * @param within what scrolls it; found where it is not known
 */
export function useLongList(
  list: RefObject<HTMLElement | null>,
  count: number,
  estimate: number,
  within?: RefObject<HTMLElement | null>,
): LongList {
  const long = count > SHORT;
  const [scrollMargin, setMargin] = useState(0);
  const virtual = useVirtualizer({
    count: long ? count : 0,
    getScrollElement: () => within?.current ?? scrollerOf(list.current),
    // Until it is measured: what a page can show, so that the first drawing has rows.
    initialRect: { width: 0, height: innerHeight },
    estimateSize: () => estimate,
    overscan: Math.ceil(BEYOND / estimate),
    scrollMargin,
  });
  useLayoutEffect(() => {
    // At the top of what scrolls it, where that is given.
    if (!long || !list.current || within) return;
    const scroller = scrollerOf(list.current);
    if (!scroller) return;
    const from = list.current.getBoundingClientRect().top - scroller.getBoundingClientRect().top;
    setMargin(from + scroller.scrollTop);
  }, [long, list, within]);

  if (!long) {
    const indexes = Array.from({ length: count }, (_, index) => index);
    return { indexes, before: 0, after: 0, measure: undefined, reveal: () => undefined };
  }
  const rows = virtual.getVirtualItems();
  return {
    indexes: rows.map(({ index }) => index),
    before: (rows[0]?.start ?? scrollMargin) - scrollMargin,
    after: virtual.getTotalSize() - ((rows.at(-1)?.end ?? scrollMargin) - scrollMargin),
    measure: virtual.measureElement,
    reveal: (index) => virtual.scrollToIndex(index),
  };
}

/** What scrolls an element: the nearest around it that does. */
function scrollerOf(element: HTMLElement | null): HTMLElement | null {
  for (let around = element?.parentElement; around; around = around.parentElement) {
    if (/auto|scroll/.test(getComputedStyle(around).overflowY)) return around;
  }
  return element && document.documentElement;
}
