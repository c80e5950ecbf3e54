import { parseQuantity } from "#contract/units/parse.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { PIPE_STOCK } from "#core/catalogue/pipes.ts";
import type { Claim } from "#core/whatif/claim.ts";

const WORDS: Record<string, number> = {
  twice: 2,
  double: 2,
  doubles: 2,
  "three times": 3,
  triple: 3,
  half: 0.5,
};

/** Reads "90 gpm", "94 psi", "twice as much with 3/4 in"; a sentence where that is none of them. */
export function readClaim(
  text: string,
  system: UnitSystem,
): { ok: true; claim: Claim } | { ok: false; message: string } {
  const tidy = text.trim().toLowerCase();
  const times =
    /^(twice|doubles?|three times|triple|half|[\d.]+\s*(?:times|x|×))\b.*?\b(?:with|in|on|through)\s+(.+)$/.exec(
      tidy,
    );
  if (times) {
    const [, word = "", size = ""] = times;
    const factor = WORDS[word] ?? Number.parseFloat(word);
    const nominal = nominalOf(size);
    if (nominal && factor > 0)
      return { ok: true, claim: { kind: "times", times: factor, nominal } };
    return { ok: false, message: `“${size}” is no size that is stocked.` };
  }
  const flow = parseQuantity(tidy, "flow", system);
  const pressure = parseQuantity(tidy, "pressure", system);
  // A bare number is a flow; a unit decides otherwise.
  if (flow.ok && flow.value > 0) return { ok: true, claim: { kind: "flow", flow: flow.value } };
  if (pressure.ok && pressure.value > 0) {
    return { ok: true, claim: { kind: "pressure", pressure: pressure.value } };
  }
  return {
    ok: false,
    message:
      "Type a flow, a pressure, or so many times with a size: “90 gpm”, “94 psi”, “twice as much with 3/4 in”.",
  };
}

function nominalOf(size: string): string | undefined {
  const plain = size
    .replace(/["”]|\bpipe\b|\bhose\b|\binch(es)?\b/g, " in ")
    .replace(/\s+/g, " ")
    .trim();
  const text = plain.replace(/( in)+$/, " in").replace(/(\d) (\d+\/\d+)/, "$1-$2");
  return PIPE_STOCK.find(({ nominal }) => nominal.toLowerCase() === text)?.nominal;
}
