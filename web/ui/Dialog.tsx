import * as Radix from "@radix-ui/react-dialog";
import type { ReactNode } from "react";
import { IconButton } from "./Button.tsx";
import { X } from "./icons.ts";

/** A sheet over the page; Escape or a click beside it closes it. */
export function Dialog({
  open,
  onClose,
  title,
  wide,
  children,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  /** for tables and pictures */
  wide?: boolean;
  children: ReactNode;
}) {
  return (
    <Radix.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Radix.Content
          aria-describedby={undefined}
          className={`fixed left-1/2 z-50 -translate-x-1/2 ${wide ? "top-[4vh] max-h-[92vh] w-[min(70rem,96vw)]" : "top-[10vh] max-h-[80vh] w-[min(34rem,94vw)]"} overflow-auto rounded-lg border border-rule bg-paper p-5 shadow-2xl`}
        >
          <Radix.Title className="plate mb-3 pr-9 text-2xl">{title}</Radix.Title>
          {children}
          {/* Last in order, so that the first entry of a form takes the cursor. */}
          <Radix.Close asChild>
            <IconButton label="Close" className="absolute top-3 right-3">
              <X size={19} aria-hidden />
            </IconButton>
          </Radix.Close>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
