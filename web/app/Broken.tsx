import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useRouteError } from "react-router";
import { ofServer } from "../api/queries.ts";
import { note, report } from "../state/pageLog.ts";
import { Button } from "../ui/Button.tsx";

/** How an application says that a part of it, or a newer version of that part, could not be fetched. */
const UNFETCHED = /dynamically imported module|Importing a module script|error loading/i;

/** In place of a page that broke off: a way back, and what whoever mends it has to know. */
export function Broken() {
  const error = useRouteError();
  const health = useQuery(ofServer);
  const [copied, setCopied] = useState(false);
  const said = error instanceof Error ? error.message : String(error);
  const unfetched = UNFETCHED.test(said);
  const text = report(error, health.data?.version);
  useEffect(() => note(`Broke off at ${location.pathname}: ${said}`), [said]);
  async function copy(): Promise<void> {
    try {
      await navigator.clipboard.writeText(text);
      setCopied(true);
    } catch {
      // Without a clipboard it is there to be marked and copied by hand.
    }
  }
  return (
    <div className="mx-auto h-full max-w-3xl overflow-y-auto p-6">
      <h1 className="text-3xl">
        {unfetched ? "A part of this page could not be fetched" : "This page broke off"}
      </h1>
      <p className="mt-2" role="alert">
        {unfetched
          ? "The server did not answer for it, or the application was renewed while the page was open. Nothing that was saved is lost."
          : "It is a fault of the application, and not of what you did. What the page said it had saved is saved, and what it had not is kept on this device."}
      </p>
      <div className="mt-4 flex flex-wrap gap-2">
        <Button look="strong" onClick={() => location.reload()}>
          Open it again
        </Button>
        <Link
          to="/"
          reloadDocument
          className="target inline-flex items-center rounded border border-ink px-3 font-medium hover:bg-press"
        >
          To the jobs
        </Link>
        <Button onClick={() => void copy()}>{copied ? "Copied" : "Copy a report"}</Button>
      </div>
      <details className="mt-4">
        <summary className="min-h-11 content-center">What the report says</summary>
        <pre className="rounded bg-press p-2 text-[13px] break-words whitespace-pre-wrap select-all">
          {text}
        </pre>
      </details>
    </div>
  );
}
