import { Button } from "../ui/Button.tsx";
import type { Progress } from "./takeIn.ts";

/** How far something that is sent in pieces is, and a way to stop it: nothing of it is taken in then. */
export function Sending({
  progress: { sent, of, waiting },
  onCancel,
}: {
  progress: Progress;
  onCancel: () => void;
}) {
  return (
    <div className="grid gap-2" role="status">
      <p>
        {sent < of ? `${sent} of ${of} sent` : "All sent; being taken in"}
        {waiting && <span className="block text-signal">{waiting} It is tried again.</span>}
      </p>
      <progress className="h-3 w-full accent-(--water)" value={sent} max={of} aria-label="Sent" />
      <div>
        <Button onClick={onCancel}>Cancel: take in nothing</Button>
      </div>
    </div>
  );
}
