/** The sentence about a bad entry, over the page below its field so that nothing jumps. */
export function Problem({ id, children }: { id: string; children: string | undefined }) {
  if (!children) return null;
  return (
    <p
      id={id}
      role="alert"
      className="absolute top-full left-0 z-20 mt-0.5 w-max max-w-60 rounded border border-signal bg-sheet px-2 py-1 text-[13px] text-signal shadow"
    >
      {children}
    </p>
  );
}
