import { useRef } from "react";
import { Picture } from "../../../pictures/Picture.tsx";
import { takePicture } from "../../../pictures/takePicture.ts";
import { Button, IconButton } from "../../../ui/Button.tsx";
import { Camera, X } from "../../../ui/icons.ts";
import { toast } from "../../../ui/toast.ts";
import type { PartProps } from "./part.ts";

/** Pictures of a reading: the gauge, the bucket, the nameplate. */
export function PicturesPart({ draft, change, jobId }: PartProps & { jobId: string }) {
  const input = useRef<HTMLInputElement>(null);

  async function take(files: readonly File[]): Promise<void> {
    const taken: string[] = [];
    for (const file of files) {
      try {
        taken.push(await takePicture(file, jobId));
      } catch (error) {
        toast.error((error as Error).message);
      }
    }
    change((before) => ({ attachments: [...before.attachments, ...taken] }));
  }

  return (
    <div className="flex flex-wrap items-center gap-2">
      <input
        ref={input}
        type="file"
        aria-label="Picture"
        accept="image/*"
        multiple
        hidden
        onChange={(event) => {
          void take([...(event.target.files ?? [])]);
          event.target.value = "";
        }}
      />
      <Button onClick={() => input.current?.click()}>
        <Camera size={17} aria-hidden /> Add a picture
      </Button>
      {draft.attachments.map((id, i) => (
        <span key={id} className="flex items-start">
          <Picture id={id} name={`Picture ${i + 1}`} />
          <IconButton
            label={`Leave picture ${i + 1} out`}
            onClick={() =>
              change(({ attachments }) => ({
                attachments: attachments.filter((own) => own !== id),
              }))
            }
          >
            <X size={16} aria-hidden />
          </IconButton>
        </span>
      ))}
    </div>
  );
}
