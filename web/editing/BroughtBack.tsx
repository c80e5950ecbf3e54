import { Button } from "../ui/Button.tsx";

/** Over an edit that was begun earlier and comes from this device: it can be let go. */
export function BroughtBack({
  editing: { broughtBack, changed, drop },
}: {
  editing: { broughtBack: boolean; changed: boolean; drop: () => void };
}) {
  if (!broughtBack || !changed) return null;
  return (
    <p role="status" className="flex flex-wrap items-center gap-2 rounded bg-press px-3 py-1">
      <span className="flex-1">What you typed here before and did not save is back.</span>
      <Button look="quiet" onClick={drop}>
        Let it go
      </Button>
    </p>
  );
}
