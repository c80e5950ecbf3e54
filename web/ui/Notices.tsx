import type { ReactNode } from "react";
import { Refused } from "../api/client.ts";
import { Button } from "./Button.tsx";

/** In place of content that is on its way. */
export function Loading({ what }: { what: string }) {
  return (
    <p role="status" className="p-6 text-soft">
      Loading {what} …
    </p>
  );
}

/** In place of content that could not be had. */
export function Trouble({ error, onRetry }: { error: Error; onRetry: () => void }) {
  return (
    <div role="alert" className="m-6 rounded border border-signal bg-sheet p-4">
      <p className="font-medium text-signal">{error.message}</p>
      {error instanceof Refused && error.status === 401 && (
        <a className="mt-2 block w-fit underline" href="/sign-in">
          Sign in
        </a>
      )}
      <Button className="mt-3" onClick={onRetry}>
        Try again
      </Button>
    </div>
  );
}

/** Where there is nothing yet: says what belongs here and how to begin. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="mx-auto max-w-xl p-8 text-center">
      <h2 className="text-2xl">{title}</h2>
      <div className="mt-2 flex flex-col items-center gap-4 text-soft">{children}</div>
    </div>
  );
}

/** In place of a number that could not be worked out, and beside an older one. */
export function NotWorkedOut({
  error,
  again,
  className,
}: {
  error: string | undefined;
  again: () => void;
  className?: string;
}) {
  return (
    <p className={className}>
      It could not be worked out: {error}{" "}
      <Button look="quiet" onClick={again}>
        Try again
      </Button>
    </p>
  );
}
