import type { PumpDocument } from "#contract/documents/pump.ts";
import type { Pump } from "#core/pump/pump.ts";

/** What choosing needs of a pump: a library of thousands is sent to be worked on without its notes and pictures. */
export function slimPump(document: PumpDocument): Pump {
  const {
    note: _note,
    curve: _curve,
    attachments: _attachments,
    otherLines: _lines,
    ...rest
  } = document;
  return rest;
}
