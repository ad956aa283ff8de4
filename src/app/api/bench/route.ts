import { backend } from "../../../server/backend-handle";
import { benchSchema, bodyOf, streamed } from "../answer";

/** The whole set's proof of a draft and the rows on screen, its progress before it. A client's newer request cancels its older one. */
export function POST(request: Request): Promise<Response> {
  return streamed(async (progress) => {
    const { kind, design, query, client } = await bodyOf(request, benchSchema);
    const started = performance.now();
    const result = await backend().proof.call(
      "bench",
      { kind, design, query },
      { lane: `bench ${client}`, signal: request.signal, progress },
    );
    return { ...result, ms: performance.now() - started };
  });
}
