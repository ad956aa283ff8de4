import { type Answer } from "./answer";
import { type ApiRequest } from "./api-request";
import { type FaultName, type Faults } from "./faults";
import { type PracticeStore } from "./practice-store";
import { problem } from "./problem";

const SLOW_MS = 2000;

/** What is no answer to anything: HTML, half of an object, a list for an object, arrays without an end. */
const RUBBISH: readonly ((body: string) => Partial<Answer>)[] = [
  () => ({
    headers: { "content-type": "text/html" },
    body: "<!doctype html><title>Log in</title><p>Log in, please</p>",
  }),
  (body) => ({ body: body.slice(0, Math.floor(body.length / 2)) }),
  () => ({ body: '["nothing", 1, null, {"id": {}}]' }),
  () => ({ body: "[".repeat(1_000_000) }),
];

/** What goes wrong at the interface, around a face that works. */
export class InterfaceFaults {
  private rubbish = 0;

  constructor(
    private readonly faults: Faults,
    private readonly store: PracticeStore,
    private readonly now: () => string = () => new Date().toISOString(),
  ) {}

  /** @param face what answers where nothing goes wrong. @param pages pages that the request is to change. */
  answer(request: ApiRequest, pages: readonly string[], face: (request: ApiRequest) => Answer): Answer {
    const on = (name: FaultName) => this.faults.befalls(name);
    if (on("token-ended")) return problem(401, "Unauthorized", "This token has ended");
    if (on("too-many")) return problem(429, "Too many requests", "Come back in a second", { "retry-after": "1" });
    if (on("errors")) return this.failing(() => face(request));
    if (on("hanging")) return this.hanging(() => face(request));
    if (on("changed-meanwhile")) for (const id of pages) this.edit(id);
    const answer = face(request);
    if (on("rubbish")) return { ...answer, ...RUBBISH[this.rubbish++ % RUBBISH.length]!(answer.body) };
    if (on("dropped")) return { ...answer, delivery: { isDropped: true } };
    return on("slow") ? { ...answer, delivery: { afterMs: SLOW_MS } } : answer;
  }

  /** Whether a change at this place of a batch is refused. */
  refuses(place: number): boolean {
    return place % 2 === 1 && this.faults.befalls("half-refused");
  }

  private failing(work: () => Answer): Answer {
    if (this.faults.isHeads()) work();
    return problem(500, "Internal server error", "Something broke here");
  }

  private hanging(work: () => Answer): Answer {
    if (this.faults.isHeads()) work();
    return { status: 500, headers: {}, body: "", delivery: { hangs: true } };
  }

  /** Somebody edits a page on the site itself: what a program may be changing as well, or something else. */
  private edit(id: string): void {
    const page = this.store.pageOf(id);
    if (!page) return;
    const change = this.faults.isHeads() ? { title: `${page.title}, edited` } : { intro: `${page.intro} Edited.` };
    this.store.change(id, change, null, this.now(), "editor");
  }
}
