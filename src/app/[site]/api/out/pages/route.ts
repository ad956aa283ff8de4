import { type NextRequest } from "next/server";
import * as z from "zod";
import { FILE_TYPES, OUT_FORMATS, OUT_SHAPES } from "../../../../../core/items/taken-out";
import { onSite } from "../../../../../server/api-handle";

const asked = z.object({ made: z.uuid(), shape: z.enum(OUT_SHAPES), format: z.enum(OUT_FORMATS) });

/** A file of pages that was made before, by `exchange.takeOutPages`. */
export async function GET(request: NextRequest, context: { params: Promise<{ site: string }> }): Promise<Response> {
  const read = asked.safeParse(Object.fromEntries(request.nextUrl.searchParams));
  if (!read.success) return Response.json({ error: "Ask for a file that was made." }, { status: 400 });
  const { made, shape, format } = read.data;
  return onSite(context, (api) => {
    const { body, bytes } = api.madeFile({ token: made, format });
    const name = `${shape === "wide" ? "pages" : "changes"}.${format}`;
    return new Response(body, {
      headers: {
        "content-type": FILE_TYPES[format],
        "content-length": String(bytes),
        "content-disposition": `attachment; filename="${name}"`,
      },
    });
  });
}
