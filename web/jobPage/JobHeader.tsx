import { useState, useSyncExternalStore } from "react";
import { NavLink, useParams, useSearchParams } from "react-router";
import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { wallClock } from "../lib/clock.ts";
import { edit, redo, undo, useJobStore, visit } from "../openJob/jobStore.ts";
import type { Stage } from "../openJob/stage.ts";
import { IconButton } from "../ui/Button.tsx";
import { Redo2, Undo2 } from "../ui/icons.ts";
import { STAGES } from "./stages.ts";

/** Name of the job, the steps, undo, and whether everything is saved. */
export function JobHeader({ stage }: { stage: Stage }) {
  const { id = "" } = useParams();
  const [params] = useSearchParams();
  const name = useJobStore((s) => s.job.name);
  const present = useJobStore(useShallow((s) => STAGES.filter((each) => each.appliesTo(s.job))));
  const many = present.length > USUAL;
  const [draft, setDraft] = useState<string | null>(null);
  const { pastStates, futureStates } = useStore(useJobStore.temporal, (s) => s);
  const link = (to: string, label: string, current: boolean) => {
    const search = new URLSearchParams(params);
    // Each stage opens on the part and the view that belong to it.
    for (const key of ["part", "view"]) search.delete(key);
    return (
      <NavLink
        key={to}
        to={{ pathname: `/jobs/${id}/${to}`, search: search.toString() }}
        aria-current={current ? "step" : undefined}
        className={`target plate inline-flex items-center rounded px-3 text-[17px] max-sm:px-2.5 ${current ? "bg-ink text-paper" : "hover:bg-press"}`}
      >
        {label}
      </NavLink>
    );
  };
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule px-3 py-1 max-sm:gap-x-1 max-sm:px-1.5">
      <h1 className="sr-only">{name}</h1>
      <input
        aria-label="Name of the job"
        className="target plate min-w-0 flex-1 text-ellipsis basis-52 max-sm:basis-40 scrolled:hidden rounded bg-transparent px-1 text-[21px] hover:bg-press focus:bg-sheet"
        value={draft ?? name}
        maxLength={120}
        onFocus={() => visit(true)}
        onChange={(event) => {
          const next = event.target.value;
          setDraft(next);
          if (next.trim() !== "") edit((job) => ({ ...job, name: next }));
        }}
        onBlur={() => {
          setDraft(null);
          visit(false);
        }}
      />
      <nav aria-label="Stages of the job" className="no-print flex max-sm:order-2 max-sm:flex-1">
        {STAGES.filter((each) => each === stage || present.includes(each)).map((each) =>
          link(each.id, each.name, each === stage),
        )}
        {link("sheet", "Sheet", false)}
      </nav>
      <span
        className={`no-print flex scrolled:hidden ${many ? "max-sm:order-1" : "max-sm:order-2"}`}
      >
        <IconButton label="Undo (Ctrl Z)" disabled={pastStates.length === 0} onClick={undo}>
          <Undo2 size={18} aria-hidden />
        </IconButton>
        <IconButton label="Redo (Ctrl Shift Z)" disabled={futureStates.length === 0} onClick={redo}>
          <Redo2 size={18} aria-hidden />
        </IconButton>
      </span>
      <SaveMark />
    </div>
  );
}

/** As many stages as leave room on a phone for what stands beside them. */
const USUAL = 4;

function SaveMark() {
  const saved = useJobStore((s) => s.saved);
  const text = (() => {
    switch (saved.kind) {
      case "saved":
        return "Saved";
      case "saving":
      case "unsaved":
        return "Saving …";
      case "offline":
        return saved.kept
          ? "Not saved: server does not answer; kept on this device, trying again"
          : "Not saved, and this device has no room to keep it: leave this page open";
      case "refused":
        return `Not saved: ${saved.message}${saved.kept ? " Kept on this device." : " Not kept on this device either: leave this page open."}${saved.again && !saved.signIn ? " It is tried again." : ""}`;
      case "conflict":
        return "Not saved: changed elsewhere";
    }
  })();
  // The server may stand in another time zone.
  const here = useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
  const at = here && saved.kind === "saved" && saved.at ? wallClock(new Date(saved.at)) : "";
  const bad = saved.kind === "offline" || saved.kind === "refused" || saved.kind === "conflict";
  return (
    <span
      role="status"
      className={`no-print text-right text-[13px] max-sm:order-1 sm:min-w-24 scrolled:order-2 ${bad ? "font-medium text-signal" : "text-soft"}`}
    >
      {text}{" "}
      {saved.kind === "refused" && saved.signIn && (
        <a className="underline" href="/sign-in" target="_blank" rel="noreferrer">
          Sign in
        </a>
      )}
      <span className="max-sm:hidden">{at}</span>
    </span>
  );
}

const never = () => () => undefined;
