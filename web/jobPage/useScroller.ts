import { useEffect, useRef } from "react";

/** What a stage is scrolled in: it begins at its top, with the heads of the page at their full height. */
export function useScroller(stage: string) {
  const scroller = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (stage) scroller.current?.scrollTo(0, 0);
    return () => {
      delete document.documentElement.dataset.scrolled;
    };
  }, [stage]);
  return scroller;
}
