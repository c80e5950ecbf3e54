import { StatusMark } from "../ui/StatusMark.tsx";

/** A sentence with how much it matters. */
export function Said({ severity, sentence }: { severity: "good" | "watch"; sentence: string }) {
  return (
    <p className="flex gap-2">
      <StatusMark severity={severity} />
      <span>{sentence}</span>
    </p>
  );
}
