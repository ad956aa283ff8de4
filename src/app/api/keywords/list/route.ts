import { z } from "zod";
import { backend } from "../../../../server/backend-handle";
import { answer, bodyOf, streamed } from "../../answer";

const mapping = z.object({
  keyword: z.number().int().min(0),
  volume: z.number().int().min(0).nullable(),
  firstToo: z.boolean(),
});

/** Takes a list of keywords in, CSV or pasted, and looks at it; nothing is on the site's list yet. */
export function POST(request: Request): Promise<Response> {
  return answer(() => {
    if (!request.body) throw new Error("There is nothing in it. Choose a file, or paste keywords.");
    return backend().receiveKeywords(request.body);
  });
}

/** Puts a list that was looked at on the site's. */
export function PUT(request: Request): Promise<Response> {
  return streamed(async (progress) => {
    const { token, mapping: columns } = await bodyOf(request, z.object({ token: z.string().max(64), mapping }));
    return backend().bringKeywords(token, columns, progress);
  });
}

/** Takes every keyword off the list; pages keep theirs. */
export function DELETE(): Promise<Response> {
  return answer(() => ({ cleared: backend().clearKeywordList() }));
}
