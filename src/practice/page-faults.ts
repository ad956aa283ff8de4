import { escapeUTF8 } from "entities";
import { gzipSync } from "node:zlib";
import { normalAddress } from "../core/addresses/path-form";
import { type Answer, htmlAnswer, redirectAnswer } from "./answer";
import { type FaultName, type Faults } from "./faults";
import { type PracticePage, type PracticeStore } from "./practice-store";
import { type Head } from "./theme";

const CACHED_MS = 60_000;
const CUT_AT = 160;
const HUGE = 20_000_000;
const BOMB = 1_000_000_000;
const BOMB_PART = 10_000_000;
/** Steps of a chain, the last of which is the target. */
const STEPS = 3;

/** What goes wrong with what visitors get. */
export class PageFaults {
  private bomb: Buffer | null = null;

  constructor(
    private readonly faults: Faults,
    private readonly store: PracticeStore,
    private readonly site: string,
    private readonly now: () => number = Date.now,
  ) {}

  /** A page as it is shown: a cache may have an older one. */
  shown(page: PracticePage): PracticePage {
    if (!this.on("stale-pages")) return page;
    return this.store.asOf(page, new Date(this.now() - CACHED_MS).toISOString());
  }

  /** A page’s head as the theme writes it. */
  head(head: Head): Head {
    let { title, description, robots } = head;
    if (this.on("adds-name")) title += ` | ${this.site}`;
    if (this.on("cuts-descriptions")) description = description.slice(0, CUT_AT);
    if (this.on("escapes-twice")) [title, description] = [escapeUTF8(title), escapeUTF8(description)];
    if (this.on("noindex")) robots = "noindex";
    return { ...head, title, description, robots };
  }

  /** A page as it is sent. */
  sent(answer: Answer): Answer {
    if (this.on("gzip-bomb")) return { ...answer, delivery: { gzipped: (this.bomb ??= gzipBomb()) } };
    if (this.on("huge")) return { ...answer, body: answer.body + `<!-- ${"x".repeat(HUGE)} -->` };
    if (this.on("broken-html")) return { ...answer, body: broken(answer.body) };
    if (!this.on("wrong-charset")) return answer;
    const body = answer.body.replace(/<meta charset="utf-8"\/>/i, '<meta charset="iso-8859-1">');
    return { ...answer, headers: { ...answer.headers, "content-type": "text/html; charset=iso-8859-1" }, body };
  }

  /** A redirect as it is sent. @param hop how many steps there were already. */
  redirect(status: number, target: string, path: string, hop: number): Answer {
    const sent = this.on("redirect-302") ? 302 : status;
    const next = () => `${normalAddress(path)}?hop=${hop + 1}`;
    if (this.on("redirect-loop")) return redirectAnswer(sent, next());
    return redirectAnswer(sent, this.on("redirect-chain") && hop + 1 < STEPS ? next() : target);
  }

  private on(name: FaultName): boolean {
    return this.faults.befalls(name);
  }
}

/** As it comes out of templates that nobody looked at: browsers read it all the same. */
function broken(html: string): string {
  return html
    .replace("</title>", "</title><title>Another title</title>")
    .replace("</head>", "<p>A paragraph in the head</head>")
    .replaceAll("</p>", "")
    .replace("<article>", "<article><table><b><i>Crossed</b></i>")
    .replace("</body></html>", "</span></main <");
}

/** Members of gzip one behind another are one stream (RFC 1952): a megabyte that becomes a gigabyte. */
function gzipBomb(): Buffer {
  const part = gzipSync(Buffer.alloc(BOMB_PART, " "), { level: 9 });
  const page = gzipSync(Buffer.from(htmlAnswer("<!doctype html><title>A bomb</title>").body));
  return Buffer.concat([page, ...Array.from({ length: BOMB / BOMB_PART }, () => part)]);
}
