import { z } from "zod";
import { backend } from "../../../server/backend-handle";
import { answer, bodyOf } from "../answer";

const fileSchema = z.object({
  name: z.string().max(200),
  text: z.string().max(20_000_000, { error: "the file is larger than 20 MB; no lines file is" }),
});

/** The drafts as a lines file. */
export function GET(): Response {
  return new Response(backend().linesFile(), {
    headers: {
      "content-type": "application/json; charset=utf-8",
      "content-disposition": 'attachment; filename="site.lines.json"',
    },
  });
}

/** What a lines file would change. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const { name, text } = await bodyOf(request, fileSchema);
    return backend().reviewLinesFile(name, text);
  });
}

/** Takes a lines file over into the drafts, and the site's settings where that is wanted. */
export function PUT(request: Request): Promise<Response> {
  return answer(async () => {
    const { name, text, site } = await bodyOf(request, fileSchema.extend({ site: z.boolean() }));
    return backend().adoptLinesFile(name, text, site);
  });
}
