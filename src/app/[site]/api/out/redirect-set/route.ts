import { type NextRequest } from "next/server";
import * as z from "zod";
import { REDIRECT_FORMS, type RedirectForm } from "../../../../../core/addresses/redirect-forms";
import { onSite } from "../../../../../server/api-handle";

const formSchema = z.enum(REDIRECT_FORMS);

const FILES: Readonly<Record<RedirectForm, readonly [name: string, type: string]>> = {
  csv: ["redirects.csv", "text/csv; charset=utf-8"],
  jsonl: ["redirects.jsonl", "application/x-ndjson"],
  nginx: ["redirects-nginx.conf", "text/plain; charset=utf-8"],
  apache: ["redirects-apache.conf", "text/plain; charset=utf-8"],
  plain: ["redirects.txt", "text/plain; charset=utf-8"],
};

/** All redirects that hold, each in one hop, or in as few rules as there can be, in the form that is asked for. */
export async function GET(request: NextRequest, context: { params: Promise<{ site: string }> }): Promise<Response> {
  const form = formSchema.safeParse(request.nextUrl.searchParams.get("form") ?? "csv");
  if (!form.success)
    return Response.json(
      { error: `Ask for form=${REDIRECT_FORMS.join(", form=")}, with compact=1 for fewer rules.` },
      { status: 400 },
    );
  const isCompact = request.nextUrl.searchParams.get("compact") === "1";
  const [name, type] = FILES[form.data];
  return onSite(
    context,
    (api) =>
      new Response(api.takeOutRedirects(form.data, isCompact), {
        headers: { "content-type": type, "content-disposition": `attachment; filename="${name}"` },
      }),
  );
}
