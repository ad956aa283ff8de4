import * as z from "zod";
import { Refusal } from "../refusal";
import { type Connection, connectionSchema, type Fields } from "./schema";

/** A description is a page or two; what is larger is something else. */
const MOST_LENGTH = 200_000;

/**
 * Reads a connection file.
 *
 * @throws {Refusal} that says what is wrong with it, and where.
 */
export function readConnection(text: string): Connection {
  if (text.length > MOST_LENGTH) throw new Refusal("invalid", "This is too long for a connection file");
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    throw new Refusal("invalid", `The connection file is not valid JSON: ${(error as Error).message}`, {
      cause: error,
    });
  }
  const read = connectionSchema.safeParse(json);
  if (read.success) return read.data;
  const issues = read.error.issues.flatMap((issue) => wordsOf(issue, []));
  throw new Refusal("invalid", `The connection file is not complete or not right: ${issues.slice(0, 6).join("; ")}`);
}

/** Issues in words, each with its place; of a choice those of the shape that comes nearest. */
function wordsOf(issue: z.core.$ZodIssue, above: readonly PropertyKey[]): string[] {
  const path = [...above, ...issue.path];
  if (issue.code === "invalid_union" && issue.errors.length > 0) {
    const deepest = [...issue.errors].sort((a, b) => depthOf(b) - depthOf(a))[0]!;
    return deepest.flatMap((own) => wordsOf(own, path));
  }
  const at = path.map(String).join(".");
  return [at === "" ? issue.message : `${at}: ${issue.message}`];
}

const depthOf = (issues: readonly z.core.$ZodIssue[]) =>
  Math.max(...issues.map(({ path, code }) => path.length + (code === "custom" ? 1 : 0)), 0);

/** A kind’s fields, its own before those of all. */
export function fieldsOf(connection: Connection, kind: string): Fields {
  return { ...connection.fields, ...connection.kinds[kind]?.fields };
}
