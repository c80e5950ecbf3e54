import { type KeyboardEvent, useState } from "react";
import type { Spot } from "#core/trace/projective.ts";
import { snapToLine } from "#core/trace/snapToLine.ts";
import { Button } from "../../ui/Button.tsx";
import { Loupe } from "./Loupe.tsx";
import { type LineRead, nearest, spotOf } from "./marks.ts";
import { Overlay } from "./Overlay.tsx";
import { moved, placed, type TraceDraft, takenOut } from "./traceDraft.ts";
import type { Opened } from "./usePicture.ts";

/** The picture with everything that is marked on it: clicks set marks, keys move the one in hand. */
export function TracePicture({
  picture,
  draft,
  change,
  read,
}: {
  picture: Opened;
  draft: TraceDraft;
  change: (by: (before: TraceDraft) => TraceDraft) => void;
  /** what each line comes to, where the axes can be read */
  read: readonly (LineRead | undefined)[];
}) {
  const { marks, lines, aim, held } = draft;
  const [over, setOver] = useState<Spot>();
  const onKey = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 5 : 0.5;
    const ways: Record<string, Spot> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    };
    const way = ways[event.key];
    if (way && held) {
      event.preventDefault();
      change((before) => moved(before, way));
    } else if ((event.key === "Delete" || event.key === "Backspace") && held?.what === "line") {
      event.preventDefault();
      change(takenOut);
    }
  };
  return (
    <div className="min-w-0">
      <div
        className="relative w-full overflow-hidden rounded border border-rule"
        style={{ aspectRatio: `${picture.width} / ${picture.height}` }}
      >
        <img
          src={picture.url}
          alt=""
          className="absolute inset-0 h-full w-full"
          draggable={false}
        />
        <Overlay {...{ picture, marks, lines, held, read }} />
        <button
          type="button"
          className="absolute inset-0 cursor-crosshair touch-none"
          aria-label="The picture: click to place a mark; arrow keys move it by half a pixel, with Shift by five"
          onKeyDown={onKey}
          onPointerMove={(event) => setOver(spotAt(event, picture))}
          onPointerLeave={() => setOver(undefined)}
          onClick={(event) => {
            // The Enter key places a mark where the pointer is.
            const spot = event.detail === 0 ? over : spotAt(event, picture);
            if (!spot) return;
            const near = nearest(spot, lines, picture.width / 90);
            if (near && aim.what === "line") change((before) => ({ ...before, held: near }));
            else
              change((before) =>
                placed(before, spot, snapToLine(picture.grey, spot, picture.reach)),
              );
          }}
        />
      </div>
      <div className="flex items-end gap-3">
        <Loupe picture={picture} at={over ?? spotOf(held, marks, lines)} />
        <Button disabled={held?.what !== "line"} onClick={() => change(takenOut)}>
          Take this click out
        </Button>
      </div>
    </div>
  );
}

/** Where a pointer is, in pixels of the picture. */
function spotAt(
  event: { clientX: number; clientY: number; currentTarget: Element },
  { width, height }: Opened,
): Spot {
  const box = event.currentTarget.getBoundingClientRect();
  return [
    ((event.clientX - box.left) / box.width) * width,
    ((event.clientY - box.top) / box.height) * height,
  ];
}
