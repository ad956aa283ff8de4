import { ProofEngine } from "../server/proof-engine";
import { openStore } from "../store/open";
import { sixRules } from "./designs";
import { once, residentMb } from "./measure";
import { keystrokeMs } from "./proving";

/** What a process of its own found out about a large set. */
export interface Large {
  readonly firstMs: number;
  readonly keystrokeMs: number;
  readonly peakMb: number;
}

/** Loads and proves a large set, and types. Meant for a process of its own: its memory is that of the server's proof worker. */
export async function measureLarge(path: string): Promise<Large> {
  const engine = new ProofEngine(openStore(path));
  const firstMs = await once(() => engine.prove("product", sixRules()));
  const ms = keystrokeMs(engine, 5);
  return { firstMs, keystrokeMs: ms, peakMb: Math.max(residentMb(), process.resourceUsage().maxRSS / 1024) };
}
