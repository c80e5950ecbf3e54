import { JOB_KEYS, PART_KEYS, stageKeys } from "../jobPage/jobKeys.ts";
import type { Key } from "../lib/keys.ts";
import { Button } from "../ui/Button.tsx";
import { Dialog } from "../ui/Dialog.tsx";
import { FRAME_KEYS } from "./frameKeys.ts";

/** Every key there is, and what it does. */
export default function Keys({ onClose }: { onClose: () => void }) {
  return (
    <Dialog open onClose={onClose} title="Keys">
      <div className="grid gap-x-8 gap-y-4 sm:grid-cols-2">
        {groups().map(([title, keys]) => (
          <section key={title}>
            <h3 className="mb-1 text-[13px] text-soft">{title}</h3>
            <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
              {told(keys).map(([does, presses]) => (
                <div key={does} className="contents">
                  <dt className="plate text-[17px]">{presses.map(keyName).join(", ")}</dt>
                  <dd>{does}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
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

const groups = (): (readonly [string, readonly Key[]])[] => [
  ["On every page", Object.values(FRAME_KEYS)],
  ["On a job", [...Object.values(JOB_KEYS), ...Object.values(PART_KEYS)]],
  ["Views of a job, in the stages that have them", stageKeys()],
  ["Where the cursor is", CURSOR_KEYS],
];

/** What single entries, rows and buttons answer themselves while they have the cursor. */
const CURSOR_KEYS: readonly Key[] = [
  { press: "Esc", does: "Put an entry back as it was, close a sheet" },
  { press: "Alt ↑, Alt ↓", does: "Move a row of the line" },
  { press: "Space", does: "Lift a row by its handle; arrows carry it, space sets it down" },
  { press: "Space", does: "Start or stop a watch" },
];

/** Keys that do one thing stand together. */
function told(keys: readonly Key[]): [does: string, presses: string[]][] {
  const by = new Map<string, string[]>();
  for (const { does, press } of keys) by.set(does, [...(by.get(does) ?? []), press]);
  return [...by];
}

/** As it is printed on a keyboard: "Ctrl Shift Z". */
const keyName = (press: string) =>
  press
    .split("+")
    .map((part) => (part === "mod" ? "Ctrl" : `${part[0]?.toUpperCase()}${part.slice(1)}`))
    .join(" ");
