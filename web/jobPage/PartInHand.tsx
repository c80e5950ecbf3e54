import { memo } from "react";
import { Fetched } from "../lib/Fetched.tsx";
import { useJobStore } from "../openJob/jobStore.ts";
import type { LinePart, PartProps } from "../openJob/stage.ts";
import { Loading } from "../ui/Notices.tsx";

interface Props extends Omit<PartProps, "job"> {
  part: LinePart;
}

/** The part of the job being worked on, as rows for keyboard or thumb. */
export const PartInHand = memo(function PartInHand({ part, ...rest }: Props) {
  // As typed, where all around it follows a frame later.
  const job = useJobStore((s) => s.job);
  return (
    <Fetched fallback={<Loading what={part.called} />}>
      <part.Shown {...rest} job={job} />
    </Fetched>
  );
});
