import type { LineViewProps } from "../openJob/stage.ts";
import ChangesSheet from "../whatif/ChangesSheet.tsx";
import WhatIfPane from "../whatif/WhatIfPane.tsx";

export default function ChangesView({ job, solved }: LineViewProps) {
  return (
    <>
      <WhatIfPane job={job} />
      <ChangesSheet {...{ job, solved }} />
    </>
  );
}
