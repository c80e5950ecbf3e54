import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api } from "../api/client.ts";
import { Button } from "../ui/Button.tsx";
import { Dialog } from "../ui/Dialog.tsx";
import { toast } from "../ui/toast.ts";

/** Asks before the demo is brought back to what it was, and brings it back. */
export default function ResetDemo({ onClose }: { onClose: () => void }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  return (
    <Dialog open onClose={onClose} title="Reset the demo?">
      <p>
        Everything changed in this demo is thrown away and the invented jobs come back as they were.
      </p>
      <div className="mt-4 flex gap-2">
        <Button
          look="strong"
          onClick={() =>
            void (async () => {
              try {
                await navigate("/");
                await api.resetDemo();
                await client.invalidateQueries();
                toast("The demo is as it was.");
              } catch (error) {
                toast.error((error as Error).message);
              } finally {
                onClose();
              }
            })()
          }
        >
          Reset
        </Button>
        <Button onClick={onClose}>Keep it</Button>
      </div>
    </Dialog>
  );
}
