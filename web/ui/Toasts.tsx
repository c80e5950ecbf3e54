import "sonner/dist/styles.css";
import { useEffect } from "react";
import { Toaster } from "sonner";
import { toastsStand } from "./toast.ts";

/** Where is shown what is said by `toast`. */
export default function Toasts({ theme }: { theme: "light" | "dark" }) {
  useEffect(toastsStand, []);
  return <Toaster theme={theme} position="bottom-center" />;
}
