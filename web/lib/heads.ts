import type { UIEvent } from "react";

/** px scrolled at which the heads of a page give way on a phone, and at which they come back */
const AWAY = 90;
const BACK = 8;

/** On a phone, what is scrolled takes the room of the heads over it; back at its top they are there again. */
export function shrinkHeads({ currentTarget }: UIEvent<HTMLElement>): void {
  const { dataset } = document.documentElement;
  const { scrollTop } = currentTarget;
  if (scrollTop > AWAY) dataset.scrolled = "";
  else if (scrollTop < BACK) delete dataset.scrolled;
}
