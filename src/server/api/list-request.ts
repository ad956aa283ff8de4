import { type NextRequest } from "next/server";
import * as z from "zod";
import { FILE_TYPES } from "../../core/items/taken-out";
import { onSite } from "../api-handle";
import { type OutFormat } from "../exchange/take-out";
import { type Api } from "./api";

const formatSchema = z.enum(["csv", "jsonl"]).default("csv");

/**
 * Answers a request for a list with a file of it; what its query does not name is as the schema has it at first.
 *
 * @param name of the file, without its ending.
 */
export function listAnswer<S extends z.ZodObject>(
  request: NextRequest,
  context: { params: Promise<{ site: string }> },
  {
    name,
    schema,
    take,
  }: { name: string; schema: S; take: (api: Api, format: OutFormat, asked: z.output<S>) => ReadableStream },
): Promise<Response> | Response {
  const { searchParams } = request.nextUrl;
  const asked = schema.safeParse(Object.fromEntries([...searchParams].filter(([own]) => own in schema.shape)));
  const format = formatSchema.safeParse(searchParams.get("format") ?? undefined);
  if (!asked.success || !format.success) {
    const wrong = asked.success ? "format: csv or jsonl" : z.prettifyError(asked.error);
    return Response.json({ error: `That list cannot be exported so: ${wrong}` }, { status: 400 });
  }
  const headers = {
    "content-type": FILE_TYPES[format.data],
    "content-disposition": `attachment; filename="${name}.${format.data}"`,
  };
  return onSite(context, (api) => new Response(take(api, format.data, asked.data), { headers }));
}
