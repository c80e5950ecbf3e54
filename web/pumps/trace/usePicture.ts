import { useEffect, useState } from "react";
import { type Grey, greyOf, REACH } from "#core/trace/snapToLine.ts";
import { smaller } from "../../pictures/takePicture.ts";

/** A picture as it is traced: as large as it is kept, so that what is marked in it stays where it was. */
export interface Opened {
  kind: "opened";
  url: string;
  width: number;
  height: number;
  content: Blob;
  grey: Grey;
  /** px round a click in which its line is looked for */
  reach: number;
  bitmap: ImageBitmap;
}

type State = { kind: "opening" } | { kind: "failed"; message: string } | Opened;

export function usePicture(file: File): State {
  const [state, setState] = useState<State>({ kind: "opening" });
  useEffect(() => {
    let gone = false;
    let url: string | undefined;
    open(file).then(
      (opened) => {
        url = opened.url;
        if (gone) URL.revokeObjectURL(opened.url);
        else setState(opened);
      },
      (error: Error) => !gone && setState({ kind: "failed", message: error.message }),
    );
    return () => {
      gone = true;
      if (url) URL.revokeObjectURL(url);
    };
  }, [file]);
  return state;
}

async function open(file: File): Promise<Opened> {
  const content = await smaller(file);
  const bitmap = await createImageBitmap(content);
  const { width, height } = bitmap;
  const canvas = document.createElement("canvas");
  canvas.width = width;
  canvas.height = height;
  const context = canvas.getContext("2d", { willReadFrequently: true });
  if (!context) throw new Error("This browser cannot read the picture.");
  context.drawImage(bitmap, 0, 0);
  const { data } = context.getImageData(0, 0, width, height);
  return {
    ...{ kind: "opened", width, height, content, bitmap, url: URL.createObjectURL(content) },
    grey: greyOf(data, width, height),
    // A line of a large picture is wider, and a hand misses by more of its pixels.
    reach: Math.max(REACH, Math.round(width / 110)),
  };
}
