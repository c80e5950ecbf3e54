import { bandToDraw } from "../openJob/band.ts";
import type { LineViewProps } from "../openJob/stage.ts";
import CurveSheet from "./CurveSheet.tsx";

export default function CurveView({ solved, job, band }: LineViewProps) {
  return (
    <div className="h-90 lg:h-full">
      <CurveSheet {...{ solved, job }} band={bandToDraw(band)} />
    </div>
  );
}
