import { backend } from "../../../server/backend-handle";
import { answer } from "../answer";

export const dynamic = "force-dynamic";

export function GET(): Promise<Response> {
  return answer(() => backend().state());
}
