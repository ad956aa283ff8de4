import { z } from "zod";
import { siteSchema } from "../../../core/design/design";
import { backend } from "../../../server/backend-handle";
import { answer, bodyOf } from "../answer";

/** Stores the site's settings, unless they were changed elsewhere since the writer saw them. */
export function PUT(request: Request): Promise<Response> {
  return answer(async () => {
    const { site, seen } = await bodyOf(request, z.object({ site: siteSchema, seen: siteSchema }));
    backend().saveSite(site, seen);
    return backend().state();
  });
}
