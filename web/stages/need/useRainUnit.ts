import { useUnits } from "../../state/settings.ts";

/** The unit rain is read in: of a gauge in the garden. */
export const useRainUnit = () => (useUnits() === "us" ? "in" : "mm");
