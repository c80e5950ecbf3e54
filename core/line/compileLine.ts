import { inOrder } from "../fluid/levels.ts";
import type { CompiledLine } from "./compiledLine.ts";
import type { Diagnostic } from "./diagnostic.ts";
import { blockedWays } from "./openWays.ts";
import { type Line, levelsOf } from "./path.ts";
import { Walk } from "./walk.ts";

export type Compilation =
  | { kind: "compiled"; line: CompiledLine }
  /** `sketch` is as much of the line as can be drawn, with the place of what is wrong */
  | { kind: "refused"; diagnostics: Diagnostic[]; sketch: CompiledLine };

/**
 * Turns the water's path into a network of stretches, or says every reason why it cannot be solved. It needs no
 * pump: a line can be asked what it takes at a flow before one is chosen.
 * Changes of bore between neighbours are added where the path does not spell them out; where the water
 * parts or meets, the fittings on the path say what that takes.
 */
export function compileLine(line: Line): Compilation {
  const walk = new Walk(line);
  if (!inOrder(levelsOf(line.source))) walk.refuse("levels-out-of-order");
  walk.follow();
  const { compiled, diagnostics } = walk;
  diagnostics.push(...blockedWays(compiled));
  return diagnostics.length > 0
    ? { kind: "refused", diagnostics, sketch: compiled }
    : { kind: "compiled", line: compiled };
}
