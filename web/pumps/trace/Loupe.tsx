import { useEffect, useRef } from "react";
import type { Spot } from "#core/trace/projective.ts";
import type { Opened } from "./usePicture.ts";

const WIDE = 240;
const HIGH = 150;
const TIMES = 6;

/** What lies under the pointer, or round the mark that is held, six times as large. */
export function Loupe({ picture, at }: { picture: Opened; at: Spot | undefined }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (!context) return;
    context.clearRect(0, 0, WIDE, HIGH);
    if (!at) return;
    // A pixel of the screen, not of a picture made smaller for it, is what a hand aims at.
    const times = TIMES * Math.min(1, 900 / picture.width);
    const [w, h] = [WIDE / times, HIGH / times];
    context.imageSmoothingEnabled = false;
    context.drawImage(picture.bitmap, at[0] - w / 2, at[1] - h / 2, w, h, 0, 0, WIDE, HIGH);
    context.strokeStyle = "#c22";
    context.beginPath();
    context.moveTo(WIDE / 2, 0);
    context.lineTo(WIDE / 2, HIGH);
    context.moveTo(0, HIGH / 2);
    context.lineTo(WIDE, HIGH / 2);
    context.stroke();
  }, [picture, at]);
  return (
    <canvas
      ref={canvas}
      width={WIDE}
      height={HIGH}
      aria-hidden
      className="mt-2 rounded border border-rule bg-sheet"
    />
  );
}
