import { Sending } from "../exchange/Sending.tsx";
import type { Progress } from "../exchange/takeIn.ts";
import { Dialog } from "../ui/Dialog.tsx";

/** A job with its tests and pictures on its way in. */
export default function Opening(props: { progress: Progress; onCancel: () => void }) {
  return (
    <Dialog open title="Opening the job" onClose={props.onCancel}>
      <Sending {...props} />
    </Dialog>
  );
}
