import * as z from "zod";
import { type Answer } from "./answer";
import { readJson } from "./api-request";
import { FAULTS, type Fault, type Faults, isFaultName } from "./faults";
import { type SiteRequest } from "./site-request";
import { jsonAnswer, problem } from "./problem";

const shareSchema = z.number().min(0).max(100);
const switchedSchema = z.record(z.string(), shareSchema);

/** A fault and of how many requests out of 100 it befalls now. */
export interface SwitchedFault extends Fault {
  readonly share: number;
}

/** Switches faults: by a form of the start page, or by a program that puts `{"errors": 20}`; 0 switches one off. */
export class FaultSwitches {
  constructor(
    private readonly faults: Faults,
    private readonly base: string,
  ) {}

  list(): SwitchedFault[] {
    const shares = this.faults.shares();
    return FAULTS.map((fault) => ({ ...fault, share: shares.get(fault.name) ?? 0 }));
  }

  answer({ method, headers = {}, body = "" }: SiteRequest): Answer {
    if (method === "GET") return jsonAnswer(Object.fromEntries(this.list().map(({ name, share }) => [name, share])));
    const origin = headers["origin"];
    if (origin !== undefined && origin !== this.base)
      return problem(403, "Forbidden", "Faults are switched from this site’s own pages");
    if (method === "PUT") return this.put(body);
    return method === "POST"
      ? this.post(new URLSearchParams(body))
      : problem(405, "Method not allowed", "", { allow: "GET, PUT, POST" });
  }

  private put(body: string): Answer {
    const read = readJson(body, switchedSchema, problem);
    if ("wrong" in read) return read.wrong;
    const entries = Object.entries(read.value);
    const unknown = entries.find(([name]) => !isFaultName(name));
    if (unknown) return problem(422, "Unprocessable content", `There is no fault “${unknown[0]}”`);
    for (const [name, share] of entries) if (isFaultName(name)) this.faults.set(name, share);
    return this.answer({ method: "GET", target: "" });
  }

  private post(form: URLSearchParams): Answer {
    const name = form.get("name") ?? "";
    const share = shareSchema.safeParse(Number(form.get("share")));
    if (!isFaultName(name) || !share.success)
      return problem(422, "Unprocessable content", "Name a fault, and a share from 0 to 100");
    this.faults.set(name, share.data);
    return { status: 303, headers: { location: "/_practice#faults" }, body: "" };
  }
}
