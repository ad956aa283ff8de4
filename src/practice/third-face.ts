import * as z from "zod";
import { type Answer } from "./answer";
import { type ApiRequest, readJson } from "./api-request";
import { type PracticePage, type PracticeStore } from "./practice-store";
import { jsonAnswer } from "./problem";

const MOST_LISTED = 60;

const listSchema = z.object({
  collection: z.string().max(60).optional(),
  start: z.coerce.number().int().min(0).max(10_000_000).default(0),
  take: z.coerce.number().int().min(1).max(MOST_LISTED).default(10),
});

const textsSchema = z.strictObject({
  lock: z.number().int(),
  search: z.strictObject({ headline: z.string().max(1000).optional(), snippet: z.string().max(4000).optional() }),
});

/**
 * A third shape of the practice site’s interface, which no description ships for: documents with numbers, lists by offset, whole
 * addresses, texts written by a call of their own that answers nothing, with a lock instead of a version in a header.
 */
export class ThirdFace {
  /** @param base where the site is, without a slash at its end. */
  constructor(
    private readonly store: PracticeStore,
    private readonly base: string,
    private readonly now: () => string = () => new Date().toISOString(),
  ) {}

  changes({ method, path }: ApiRequest): readonly string[] {
    const number = /^\/documents\/(\d{1,12})\/texts$/.exec(path)?.[1];
    const page = method === "POST" && number !== undefined ? this.store.pageAtPlace(Number(number)) : null;
    return page ? [page.id] : [];
  }

  answer(request: ApiRequest): Answer {
    const { method, path } = request;
    if (path === "/documents" && method === "GET") return this.list(request.query);
    const [, number, texts] = /^\/documents\/(\d{1,12})(\/texts)?$/.exec(path) ?? [];
    const page = number === undefined ? null : this.store.pageAtPlace(Number(number));
    if (!page) return wrong(404, "no such document");
    if (texts === undefined && method === "GET") return jsonAnswer({ document: this.document(page) });
    if (texts !== undefined && method === "POST") return this.write(page, request.body);
    return wrong(405, "not in this way");
  }

  private list(query: URLSearchParams): Answer {
    const asked = listSchema.safeParse(Object.fromEntries(query));
    if (!asked.success) return wrong(400, z.prettifyError(asked.error));
    const { collection: kind = null, start, take } = asked.data;
    const pages = this.store.pagesAfter({ place: 0, kind, since: "", count: take, skip: start });
    return jsonAnswer({
      about: { start, found: this.store.countAfter({ kind, since: "" }) },
      documents: pages.map((page) => this.document(page)),
    });
  }

  private document(page: PracticePage & { readonly place: number }) {
    return {
      number: page.place,
      collection: page.kind,
      lock: page.version,
      web: { href: this.base + encodeURI(page.path) },
      texts: { heading: page.name, search: { headline: page.title, snippet: page.description }, opening: page.intro },
      labels: page.categoryPath.split(" › ").filter(Boolean),
    };
  }

  private write(page: PracticePage, body: string): Answer {
    const read = readJson(body, textsSchema, (status, _, detail) => wrong(status, detail));
    if ("wrong" in read) return read.wrong;
    const { lock, search } = read.value;
    const change = {
      ...(search.headline !== undefined && { title: search.headline }),
      ...(search.snippet !== undefined && { description: search.snippet }),
    };
    const changed = this.store.change(page.id, change, lock, this.now());
    if (changed.what !== "done") return wrong(409, "the lock is another one by now");
    return { status: 204, headers: {}, body: "" };
  }
}

function wrong(status: number, reason: string): Answer {
  return jsonAnswer({ reason }, {}, status);
}
