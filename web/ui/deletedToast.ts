import { toast } from "./toast.ts";

/** Says that something was deleted, and offers it back for as long as the page lives or until it is waved away. */
export function deletedToast(said: string, restore: () => Promise<unknown>): void {
  toast(said, {
    duration: Number.POSITIVE_INFINITY,
    closeButton: true,
    action: {
      label: "Undo",
      onClick: () =>
        void restore().catch((error: Error) =>
          toast.error(`Not brought back: ${error.message} It is in the bin for 30 days.`),
        ),
    },
  });
}
