import { backend } from "../../../server/backend-handle";
import { answer, benchSchema, bodyOf } from "../answer";

/** The whole set's proof of a draft and the rows on screen. A client's newer request cancels its older one. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const { kind, design, query, client } = await bodyOf(request, benchSchema);
    const started = performance.now();
    const result = await backend().proof.call("bench", { kind, design, query }, { lane: `bench ${client}`, signal: request.signal });
    return { ...result, ms: performance.now() - started };
  });
}
