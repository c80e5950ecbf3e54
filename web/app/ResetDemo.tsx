import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api } from "../api/client.ts";
import { Button } from "../ui/Button.tsx";
import { Dialog } from "../ui/Dialog.tsx";
import { toast } from "../ui/toast.ts";

/** Brings the demo back to what it was, after asking. */
export default function ResetDemo() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [asking, setAsking] = useState(false);
  return (
    <>
      <Button
        look="quiet"
        className="text-[14px] text-soft max-sm:hidden"
        onClick={() => setAsking(true)}
      >
        Demo: reset
      </Button>
      <Dialog open={asking} onClose={() => setAsking(false)} title="Reset the demo?">
        <p>
          Everything changed in this demo is thrown away and the invented jobs come back as they
          were.
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
                  setAsking(false);
                }
              })()
            }
          >
            Reset
          </Button>
          <Button onClick={() => setAsking(false)}>Keep it</Button>
        </div>
      </Dialog>
    </>
  );
}
