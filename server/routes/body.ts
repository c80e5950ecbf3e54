import type { Context } from "hono";
import type * as z from "zod";
import type { ApiError } from "#contract/api/api.ts";
import { fieldIssues } from "#contract/documents/issues.ts";
import { unstorable } from "../documents/storable.ts";

/** The JSON of a request that a database can keep, or why there is none. */
export async function jsonBody(
  c: Context,
): Promise<{ ok: true; value: unknown } | { ok: false; message: string }> {
  if (!/^application\/json\b/i.test(c.req.header("content-type") ?? "")) {
    return { ok: false, message: "Send JSON, with content type application/json." };
  }
  let value: unknown;
  try {
    value = JSON.parse(await c.req.text());
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    return { ok: false, message: "The body is not valid JSON." };
  }
  const reason = unstorable(value);
  return reason ? { ok: false, message: reason } : { ok: true, value };
}

/** What a request holds of a schema, or the answer that refuses it in words. */
export async function readBody<S extends z.ZodType>(
  c: Context,
  schema: S,
): Promise<{ ok: true; value: z.output<S> } | { ok: false; refusal: Response }> {
  const body = await jsonBody(c);
  if (!body.ok) {
    const refusal = c.json<ApiError>({ error: "bad-request", message: body.message }, 400);
    return { ok: false, refusal };
  }
  const parsed = schema.safeParse(body.value);
  if (parsed.success) return { ok: true, value: parsed.data };
  const issues = fieldIssues(parsed.error);
  const message = issues[0]?.message ?? "Not valid.";
  return { ok: false, refusal: c.json<ApiError>({ error: "invalid", message, issues }, 422) };
}
