import { type NextRequest } from "next/server";
import * as z from "zod";

/** The forms in which lists are taken out. */
export const listFormatSchema = z.enum(["csv", "jsonl"]);

/** What a request for a list asks for; what its query does not name is as the schema has it at first. */
export function listRequest<S extends z.ZodObject>(request: NextRequest, schema: S) {
  const params = Object.fromEntries([...request.nextUrl.searchParams].filter(([name]) => name in schema.shape));
  return schema.safeParse(params);
}
