import { type ReactNode, Suspense, useEffect, useId } from "react";
import { takeEarly } from "./early.ts";

/** ms after which a page that was drawn beforehand is taken for standing, whatever became of it */
const LONGEST = 8000;

/** Parts of the page that are shown and do not answer yet. */
const awaited = new Set<string>();
const here = new Set<string>();

/**
 * A part of the page whose file is fetched. What the server drew of it is shown before, and does not answer until the
 * file is there.
 */
export function Fetched({
  fallback,
  children,
}: {
  fallback: ReactNode;
  children: ReactNode;
}): ReactNode {
  const id = useId();
  useEffect(() => {
    if (!here.has(id)) awaited.add(id);
    return () => void awaited.delete(id);
  }, [id]);
  return (
    <Suspense fallback={fallback}>
      {children}
      <Here id={id} />
    </Suspense>
  );
}

/** Last in a part: it is there, and all that it is made of. */
function Here({ id }: { id: string }): ReactNode {
  useEffect(() => {
    here.add(id);
    if (awaited.delete(id)) standOnceAllIsHere();
    return () => void here.delete(id);
  }, [id]);
  return null;
}

/**
 * Of what is around every page: once no part of it is awaited, everything on the page answers. What the server drew
 * does not before, and looks it: nothing but its links can be pressed.
 */
export function useStands(): void {
  useEffect(standOnceAllIsHere, []);
}

export function standSometime(): void {
  setTimeout(stand, LONGEST);
}

function standOnceAllIsHere(): void {
  if (awaited.size === 0) stand();
}

function stand(): void {
  if (document.getElementById("root")?.dataset.drawn === undefined) return;
  delete document.getElementById("root")?.dataset.drawn;
  takeEarly();
}
