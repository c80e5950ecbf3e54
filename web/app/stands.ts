import { useEffect } from "react";
import { takeEarly } from "./early.ts";

/** ms after which a page that was drawn beforehand is taken for standing, whatever became of it */
const LONGEST = 8000;

/**
 * Of what a page shows last: once it is there everything on the page answers. What the server drew does not before, and
 * looks it: nothing but its links can be pressed.
 */
export function useStands(): void {
  useEffect(stand, []);
}

/** The same as a part of a page. */
export function Stands(): null {
  useStands();
  return null;
}

export function standSometime(): void {
  setTimeout(stand, LONGEST);
}

function stand(): void {
  if (document.getElementById("root")?.dataset.drawn === undefined) return;
  delete document.getElementById("root")?.dataset.drawn;
  takeEarly();
}
