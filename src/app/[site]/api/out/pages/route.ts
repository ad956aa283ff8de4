import { type NextRequest } from "next/server";
import { z } from "zod";
import { OUT_COLUMNS, OUT_FORMATS, OUT_SHAPES, type OutFileFormat } from "../../../../../core/items/taken-out";
import { itemQuerySchema } from "../../../../../server/api/schemas";
import { onSite } from "../../../../../server/api-handle";

const askedSchema = z
  .object({
    shape: z.enum(OUT_SHAPES),
    format: z.enum(OUT_FORMATS),
    query: itemQuerySchema,
    onlyDiffering: z.boolean().default(false),
    fullAddresses: z.boolean().default(false),
    exact: z.boolean().default(false),
    columns: z
      .array(
        z.object({
          column: z.enum([...OUT_COLUMNS.wide, ...OUT_COLUMNS.long]),
          name: z.string().trim().min(1, { error: "a column needs a name" }).max(200),
        }),
      )
      .min(1, { error: "choose at least one column" })
      .max(40),
  })
  .refine(({ columns }) => new Set(columns.map(({ name }) => name)).size === columns.length, {
    error: "two columns have the same name",
  });

const TYPES: Record<OutFileFormat, string> = {
  csv: "text/csv; charset=utf-8",
  jsonl: "application/x-ndjson",
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
};

/** Pages as a list has them, with their texts before and after: `asked` is JSON. Streamed. */
export async function GET(request: NextRequest, context: { params: Promise<{ site: string }> }): Promise<Response> {
  const asked = askedSchema.safeParse(parsed(request.nextUrl.searchParams.get("asked") ?? ""));
  if (!asked.success) {
    const words = asked.error.issues.map(({ path, message }) => `${path.join(".")}: ${message}`).join("; ");
    return Response.json({ error: `That is not understood: ${words}` }, { status: 400 });
  }
  const { format, shape } = asked.data;
  const headers = {
    "content-type": TYPES[format],
    "content-disposition": `attachment; filename="${shape === "wide" ? "pages" : "changes"}.${format}"`,
  };
  return onSite(context, (api) => new Response(api.takeOutPages(asked.data), { headers }));
}

function parsed(json: string): unknown {
  try {
    return JSON.parse(json);
  } catch {
    return null;
  }
}
