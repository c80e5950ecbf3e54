import type { z } from "zod";

/** What is wrong with a document: where, as a path of keys joined by dots, and a sentence. */
export interface FieldIssue {
  path: string;
  message: string;
}

/** Every problem of a failed parse, at the deepest field it can be pinned to. */
export function fieldIssues(error: z.ZodError): FieldIssue[] {
  return error.issues.map((issue) => ({
    path: issue.path.map(String).join("."),
    message: sentence(issue),
  }));
}

function sentence(issue: z.core.$ZodIssue): string {
  switch (issue.code) {
    case "invalid_type":
      return issue.message.startsWith("Invalid input")
        ? `This must be ${NOUNS[issue.expected] ?? issue.expected}${issue.message.includes("received undefined") ? "; it is missing" : ""}.`
        : issue.message;
    case "invalid_value":
      return issue.message.startsWith("Invalid")
        ? `This must be ${issue.values.map(String).join(" or ")}.`
        : issue.message;
    default:
      return issue.message.endsWith(".") ? issue.message : `${issue.message}.`;
  }
}

const NOUNS: Record<string, string> = {
  string: "text",
  number: "a number",
  boolean: "true or false",
  array: "a list",
  object: "an object",
};
