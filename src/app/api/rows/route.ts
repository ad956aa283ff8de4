import { backend } from "../../../server/backend-handle";
import { answer, benchSchema, bodyOf } from "../answer";

export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const { kind, design, query } = await bodyOf(request, benchSchema);
    return backend().proof.call("rows", { kind, design, query }, { signal: request.signal });
  });
}
