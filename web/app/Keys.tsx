import { Button } from "../ui/Button.tsx";
import { Dialog } from "../ui/Dialog.tsx";

/** Every key there is, and what it does. */
export default function Keys({ onClose }: { onClose: () => void }) {
  return (
    <Dialog open onClose={onClose} title="Keys">
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
        {KEYS.map(([keys, what]) => (
          <div key={what} className="contents">
            <dt className="plate text-[17px]">{keys}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-3 text-[14px] text-soft">
        <a href="/third-party-notices.txt" target="_blank" rel="noreferrer" className="underline">
          What others have written that is built in
        </a>
        , with its licences.
      </p>
      <Button className="mt-4" onClick={onClose}>
        Close
      </Button>
    </Dialog>
  );
}

const KEYS: readonly (readonly [string, string])[] = [
  ["Ctrl K", "Commands: any job, pump or action by name"],
  ["Ctrl Z, Ctrl Shift Z", "Undo, redo on a job"],
  ["1 to 5", "Source, suction, pump, discharge, outlet, each in its stage"],
  ["F", "Fold the section, or unfold it"],
  ["L, S, C, G, T", "Head ledger, sizes, curve sheet, changes and what if, over time"],
  ["D, P", "Driving, and pump with pipe, while the pump is in hand"],
  ["Alt ↑, Alt ↓", "Move the row of the line that has the cursor"],
  ["Space", "On a row’s handle: lift it; arrows carry it, space sets it down"],
  ["Esc", "Put an entry back as it was, close a sheet"],
  ["Space", "Start or stop the watch that has the cursor"],
  ["N", "A new job"],
  ["U", "US or metric"],
  ["?", "This list"],
];
