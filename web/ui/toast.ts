import type { ExternalToast } from "sonner";
import { create } from "zustand";

/** Whether something has been said yet: what shows it is fetched then. */
export const useToasts = create<{ wanted: boolean }>(() => ({ wanted: false }));

let stands: () => void;
/** Resolves once what shows them is on the page: said before, nobody would see it. */
const standing = new Promise<void>((done) => {
  stands = done;
});
/** Told by what shows them. */
export const toastsStand = () => stands();

async function say(as: "plain" | "error", text: string, options?: ExternalToast): Promise<void> {
  useToasts.setState({ wanted: true });
  const [sonner] = await Promise.all([import("sonner"), standing]);
  if (as === "error") sonner.toast.error(text, options);
  else sonner.toast(text, options);
}

/** Without the network what shows it may not be had: what happened stands on the page itself as well. */
const unsaid = () => undefined;

/** Says something for a while, beside what is being done. */
export const toast = Object.assign(
  (text: string, options?: ExternalToast): void => void say("plain", text, options).catch(unsaid),
  {
    error: (text: string, options?: ExternalToast): void =>
      void say("error", text, options).catch(unsaid),
  },
);
