import { decodeHTML, escapeUTF8 } from "entities";
import * as z from "zod";
import { type Answer } from "./answer";
import { type ApiRequest, readJson } from "./api-request";
import { type PageChange, type PracticePage, type PracticeStore } from "./practice-store";
import { jsonAnswer } from "./problem";

const MOST_LISTED = 100;

const rendered = z.object({ rendered: z.string() });

/** A whole entry, as it is written back. */
const entrySchema = z.object({
  entry: z.object({ ref: z.string(), rev: z.number().int() }),
  place: z.object({ segments: z.array(z.string()), leaf: z.string() }),
  content: z.object({ heading: rendered, lead: rendered, html: z.string() }),
  meta: z.array(z.object({ key: z.string(), value: z.string() })),
});

const listSchema = z.object({
  type: z.string().max(60).optional(),
  modified_after: z.iso.datetime().optional(),
  page: z.coerce.number().int().min(1).max(1_000_000).default(1),
  per: z.coerce.number().int().min(1).max(MOST_LISTED).default(20),
});

/** What stands among the keys and values, by its key. */
const META = { seo_title: "title", seo_desc: "description", seo_robots: "robots", seo_canonical: "canonical" } as const;

/**
 * The practice site’s interface in its nested shape: whole entries with parts within parts, keys and values in lists, entities in
 * texts, pages told by `Link` headers (RFC 8288); written whole, one at a time, with the revision that it was made for.
 */
export class NestedFace {
  /** @param base of the face, without a slash at its end. */
  constructor(
    private readonly store: PracticeStore,
    private readonly base: string,
    private readonly now: () => string = () => new Date().toISOString(),
  ) {}

  answer(request: ApiRequest): Answer {
    const { method, path } = request;
    if (path === "/entries") return method === "GET" ? this.list(request.query) : notAllowed("GET");
    const ref = /^\/entries\/([^/]+)$/.exec(path)?.[1];
    if (ref === undefined) return wrong(404, "unknown_route", `There is nothing at ${path}`);
    if (method === "GET") return this.one(ref);
    return method === "PUT" ? this.put(ref, request.body) : notAllowed("GET, PUT");
  }

  changes({ method, path }: ApiRequest): readonly string[] {
    const ref = /^\/entries\/([^/]+)$/.exec(path)?.[1];
    return method === "PUT" && ref !== undefined ? [ref] : [];
  }

  private list(query: URLSearchParams): Answer {
    const asked = listSchema.safeParse(Object.fromEntries(query));
    if (!asked.success) return wrong(400, "bad_parameter", z.prettifyError(asked.error));
    const { type = null, modified_after: since = "", page, per } = asked.data;
    const total = this.store.countAfter({ kind: type, since });
    const pages = this.store.pagesAfter({ place: 0, kind: type, since, count: per, skip: (page - 1) * per });
    const last = Math.max(1, Math.ceil(total / per));
    const linkTo = (number: number, rel: string) => {
      const to = new URLSearchParams(query);
      to.set("page", String(number));
      return `<${this.base}/entries?${to.toString()}>; rel="${rel}"`;
    };
    const links = [
      ...(page < last ? [linkTo(page + 1, "next")] : []),
      ...(page > 1 ? [linkTo(page - 1, "prev")] : []),
      linkTo(last, "last"),
    ];
    return jsonAnswer(pages.map(entry), { link: links.join(", "), "x-total": String(total) });
  }

  private one(ref: string): Answer {
    const page = this.store.pageOf(ref);
    return page ? jsonAnswer(entry(page)) : unknown(ref);
  }

  private put(ref: string, body: string): Answer {
    const whole = readJson(body, entrySchema, wrong);
    if ("wrong" in whole) return whole.wrong;
    const { value } = whole;
    if (value.entry.ref !== ref) return wrong(422, "other_entry", `This is the entry “${value.entry.ref}”`);
    const changed = this.store.change(ref, changeOf(value), value.entry.rev, this.now());
    if (changed.what === "missing") return unknown(ref);
    if (changed.what === "taken") return wrong(409, "place_taken", `“${changed.by}” is at that place`);
    if (changed.what === "stale")
      return wrong(409, "other_revision", `The entry has the revision ${changed.page.version} by now`);
    return jsonAnswer(entry(changed.page));
  }
}

function entry(page: PracticePage) {
  const parts = page.path.slice(1).split("/");
  return {
    entry: { ref: page.id, type: page.kind, rev: page.version },
    place: { segments: parts.slice(0, -1), leaf: parts.at(-1)! },
    content: {
      heading: { rendered: escapeUTF8(page.name) },
      lead: { rendered: escapeUTF8(page.intro) },
      html: page.body,
    },
    meta: Object.entries(META).map(([key, name]) => ({ key, value: escapeUTF8(page[name]) })),
    shelves: page.categoryPath
      .split(" › ")
      .filter(Boolean)
      .map((name) => ({ name: escapeUTF8(name) })),
    facts: Object.entries(JSON.parse(page.attributes) as Record<string, string>).map(([key, value]) => ({
      key,
      value: escapeUTF8(value),
    })),
    people: page.author === "" ? [] : [{ role: "author", name: escapeUTF8(page.author) }],
    price: page.price === "" ? null : { amount: page.price },
    dates: { published: page.published || null, modified: page.changedAt },
  };
}

function changeOf({ place, content, meta }: z.output<typeof entrySchema>): PageChange {
  const values = new Map(meta.map(({ key, value }) => [key, decodeHTML(value)]));
  return {
    path: `/${[...place.segments, place.leaf].join("/")}`,
    name: decodeHTML(content.heading.rendered),
    intro: decodeHTML(content.lead.rendered),
    body: content.html,
    ...Object.fromEntries(Object.entries(META).map(([key, name]) => [name, values.get(key) ?? ""])),
  };
}

/** This face has words of its own for what is wrong. */
function wrong(status: number, code: string, message: string): Answer {
  return jsonAnswer({ error: { code: code.toLowerCase().replaceAll(" ", "_"), message } }, {}, status);
}

function unknown(ref: string): Answer {
  return wrong(404, "unknown_entry", `There is no entry “${ref}”`);
}

function notAllowed(allow: string): Answer {
  return {
    ...wrong(405, "method_not_allowed", `There is ${allow}`),
    headers: { "content-type": "application/json", allow },
  };
}
