import { registerSW } from "virtual:pwa-register";
import { queries } from "../api/queries.ts";
import { toast } from "../ui/toast.ts";

/**
 * Lets the application open without a network once it was opened with one. Where a browser keeps this from a page (plain
 * HTTP off this machine) it needs the network, as any page does.
 */
export function keepForOffline(): void {
  if (!("serviceWorker" in navigator)) return;
  const first = !navigator.serviceWorker.controller;
  navigator.serviceWorker.addEventListener(
    "controllerchange",
    // What this page read before anything could keep it is read once more.
    () => first && void queries.invalidateQueries(),
    { once: true },
  );
  const use = registerSW({
    onNeedRefresh: () => {
      toast("A newer version of the application is here.", {
        duration: Number.POSITIVE_INFINITY,
        action: { label: "Use it", onClick: () => void use(true) },
      });
    },
    onRegisterError: () => undefined,
  });
}
