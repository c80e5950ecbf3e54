/** How much of a table has been read, while it is. */
export function Reading({ progress }: { progress: number }) {
  if (progress === 1) return null;
  return (
    <p role="status">
      Reading it{" "}
      <progress
        className="h-3 w-40 accent-(--water)"
        value={progress}
        max={1}
        aria-label="Read so far"
      />
    </p>
  );
}
