import * as z from "zod";
import { type Answer } from "./answer";
import { type ApiRequest, pathSchema, readJson } from "./api-request";
import { type Changed, type PageChange, type PracticePage, type PracticeStore } from "./practice-store";
import { jsonAnswer, problem } from "./problem";

const MOST_LISTED = 200;
const MOST_TOGETHER = 100;

/** What can be written, by the names that this face has for it. */
const FIELDS = {
  url_path: "path",
  headline: "name",
  seo_title: "title",
  seo_description: "description",
  robots: "robots",
  canonical_url: "canonical",
  intro: "intro",
  body_html: "body",
} as const satisfies Record<string, keyof PageChange>;

const patchSchema = z.strictObject({
  url_path: pathSchema.optional(),
  headline: z.string().min(1).max(400).optional(),
  seo_title: z.string().max(1000).nullable().optional(),
  seo_description: z.string().max(4000).nullable().optional(),
  robots: z.string().max(200).nullable().optional(),
  canonical_url: z.string().max(2000).nullable().optional(),
  intro: z.string().max(20_000).nullable().optional(),
  body_html: z.string().max(1_000_000).nullable().optional(),
});
type Patch = z.infer<typeof patchSchema>;

const batchSchema = z
  .array(z.strictObject({ id: z.string(), if_match: z.string().optional(), changes: patchSchema }))
  .min(1)
  .max(MOST_TOGETHER);

const redirectSchema = z.strictObject({
  from: pathSchema,
  to: z.string().max(4000),
  status: z.union([z.literal(301), z.literal(302), z.literal(307), z.literal(308), z.literal(410)]).default(301),
  prefix: z.boolean().default(false),
});

const listSchema = z.object({
  limit: z.coerce.number().int().min(1).max(MOST_LISTED).default(50),
  cursor: z
    .string()
    .regex(/^[A-Za-z0-9_-]{1,20}$/)
    .optional(),
  since: z.iso.datetime().optional(),
  kind: z.string().max(60).optional(),
});

/** The practice site’s interface in its flat shape: records of plain values, a cursor, changes as merge patches (RFC 7396), up to a hundred at once. */
export class FlatFace {
  /** @param refuses whether a change at a place of a batch is refused for no reason of its own. */
  constructor(
    private readonly store: PracticeStore,
    private readonly refuses: (place: number) => boolean = () => false,
    private readonly now: () => string = () => new Date().toISOString(),
  ) {}

  answer(request: ApiRequest): Answer {
    const { method, path } = request;
    if (path === "/pages") return method === "GET" ? this.list(request) : notAllowed("GET");
    if (path === "/pages/batch") return method === "POST" ? this.batch(request) : notAllowed("POST");
    if (path === "/redirects") return this.redirects(request);
    const id = /^\/pages\/([^/]+)$/.exec(path)?.[1];
    if (id === undefined) return problem(404, "Not found", `There is nothing at ${path}`);
    if (method === "GET") return this.one(id);
    return method === "PATCH" ? this.patch(id, request) : notAllowed("GET, PATCH");
  }

  changes({ method, path, body }: ApiRequest): readonly string[] {
    if (method === "POST" && path === "/pages/batch") {
      const batch = readJson(body, batchSchema, problem);
      return "wrong" in batch ? [] : batch.value.map(({ id }) => id);
    }
    const id = /^\/pages\/([^/]+)$/.exec(path)?.[1];
    return method === "PATCH" && id !== undefined ? [id] : [];
  }

  private list({ query }: ApiRequest): Answer {
    const asked = listSchema.safeParse(Object.fromEntries(query));
    if (!asked.success) return problem(400, "Bad request", z.prettifyError(asked.error));
    const { limit, cursor, since = "", kind = null } = asked.data;
    const place = cursor === undefined ? 0 : readCursor(cursor);
    if (place === null) return problem(400, "Bad request", "This cursor is none that was given out");
    const pages = this.store.pagesAfter({ place, kind, since, count: limit + 1 });
    const shown = pages.slice(0, limit);
    const next = pages.length > limit ? writeCursor(shown.at(-1)!.place) : null;
    return jsonAnswer({ pages: shown.map(record), next });
  }

  private one(id: string): Answer {
    const page = this.store.pageOf(id);
    return page ? jsonAnswer(record(page), { etag: etagOf(page) }) : missing(id);
  }

  private patch(id: string, { headers, body }: ApiRequest): Answer {
    const wanted = headers["if-match"];
    if (wanted === undefined)
      return problem(
        428,
        "Precondition required",
        "Say in If-Match which version the change is for, or * for whatever is there",
      );
    const patch = readJson(body, patchSchema, problem);
    return "wrong" in patch ? patch.wrong : this.changed(id, patch.value, wanted);
  }

  private batch({ body }: ApiRequest): Answer {
    const batch = readJson(body, batchSchema, problem);
    if ("wrong" in batch) return batch.wrong;
    const results = batch.value.map(({ id, if_match: wanted = "*", changes }, place) => {
      const {
        status,
        headers,
        body: said,
      } = this.refuses(place)
        ? problem(422, "Unprocessable content", "This change was refused, as half of them are just now")
        : this.changed(id, changes, wanted);
      return status === 200
        ? { id, status, etag: headers["etag"] }
        : { id, status, problem: JSON.parse(said) as unknown };
    });
    return jsonAnswer({ results });
  }

  private redirects({ method, query, body }: ApiRequest): Answer {
    if (method === "GET")
      return jsonAnswer({
        redirects: this.store.redirects().map(({ isPrefix, ...own }) => ({ ...own, prefix: isPrefix })),
      });
    if (method === "DELETE") {
      const from = query.get("from") ?? "";
      const isGone = this.store.removeRedirect(from, query.get("prefix") === "true");
      return isGone
        ? { status: 204, headers: {}, body: "" }
        : problem(404, "Not found", `There is no redirect of “${from}”`);
    }
    if (method !== "POST") return notAllowed("GET, POST, DELETE");
    const made = readJson(body, redirectSchema, problem);
    if ("wrong" in made) return made.wrong;
    const { prefix, ...own } = made.value;
    this.store.putRedirect({ ...own, isPrefix: prefix });
    return jsonAnswer(made.value, {}, 201);
  }

  private changed(id: string, patch: Patch, wanted: string): Answer {
    const version = wanted === "*" ? null : versionOf(wanted);
    if (version === undefined) return problem(412, "Precondition failed", `${wanted} is no version of this page`);
    return told(id, this.store.change(id, changeOf(patch), version, this.now()));
  }
}

function told(id: string, changed: Changed): Answer {
  if (changed.what === "missing") return missing(id);
  if (changed.what === "taken") return problem(409, "Conflict", `The page “${changed.by}” is at that address already`);
  if (changed.what === "stale")
    return problem(412, "Precondition failed", "The page was changed meanwhile", { etag: etagOf(changed.page) });
  return jsonAnswer(record(changed.page), { etag: etagOf(changed.page) });
}

/** `null` takes a value away (RFC 7396): the page has none then. */
function changeOf(patch: Patch): PageChange {
  return Object.fromEntries(
    Object.entries(patch).map(([name, value]) => [FIELDS[name as keyof typeof FIELDS], value ?? ""]),
  );
}

function record(page: PracticePage) {
  return {
    id: page.id,
    kind: page.kind,
    url_path: page.path,
    headline: page.name,
    seo_title: page.title,
    seo_description: page.description,
    robots: page.robots,
    canonical_url: page.canonical,
    intro: page.intro,
    body_html: page.body,
    section: page.category,
    section_path: page.categoryPath.split(" › ").filter(Boolean),
    author: page.author,
    published_on: page.published || null,
    price: page.price,
    attributes: JSON.parse(page.attributes) as Record<string, string>,
    changed_at: page.changedAt,
    etag: etagOf(page),
  };
}

function etagOf({ id, version }: PracticePage): string {
  return `"${id}.${version}"`;
}

/** @returns `undefined` for what is no version of a page. */
function versionOf(etag: string): number | undefined {
  const number = /^"[^"]*\.(\d{1,15})"$/.exec(etag)?.[1];
  return number === undefined ? undefined : Number(number);
}

const writeCursor = (place: number) => Buffer.from(`p${place}`).toString("base64url");

function readCursor(cursor: string): number | null {
  const place = /^p(\d{1,15})$/.exec(Buffer.from(cursor, "base64url").toString())?.[1];
  return place === undefined ? null : Number(place);
}

function missing(id: string): Answer {
  return problem(404, "Not found", `There is no page “${id}”`);
}

function notAllowed(allow: string): Answer {
  return problem(405, "Method not allowed", `There is ${allow}`, { allow });
}
