import { Validator } from "@seriousme/openapi-schema-validator";
import Ajv2020 from "ajv/dist/2020";
import addFormats from "ajv-formats";
import Database from "better-sqlite3";
import { beforeAll, describe, expect, it } from "vitest";
import { practicePage } from "../test/practice-page";
import { Faults } from "./faults";
import { PracticeSite } from "./practice-site";
import { PracticeStore } from "./practice-store";

const TOKEN = "a token for tests";
const store = new PracticeStore(new Database(":memory:"));
const site = new PracticeSite(store, { name: "Fennick & Dray", base: "http://127.0.0.1:4910" }, TOKEN);
beforeAll(() => {
  for (let i = 1; i <= 25; i++) store.put(practicePage(i));
  store.put({ ...practicePage(26), price: "", author: "A. Writer", published: "2026-02-01", intro: "Ropes & more" });
  store.putRedirect({ from: "/old", to: "/goods/rope-1", status: 301, isPrefix: false });
});

interface Operation {
  readonly requestBody?: { readonly content: Readonly<Record<string, unknown>> };
  readonly responses: Readonly<Record<string, { content?: Record<string, unknown> }>>;
}

const described = JSON.parse(site.answer({ method: "GET", target: "/api/openapi.json" }).body) as {
  readonly openapi: string;
  readonly servers: readonly { readonly url: string }[];
  readonly paths: Readonly<Record<string, Readonly<Record<string, Operation>>>>;
};
const ajv = new Ajv2020({ strict: false, allErrors: true });
addFormats(ajv);
ajv.addSchema(described, "site");

const pointer = (...parts: string[]) =>
  `site#/${parts.map((part) => encodeURIComponent(part.replaceAll("~", "~0").replaceAll("/", "~1"))).join("/")}`;

/** What a schema of the file says is wrong with a value; `null` for nothing. */
function wrongWith(value: unknown, ...parts: string[]): string | null {
  const validate = ajv.compile({ $ref: pointer(...parts) });
  return validate(value) ? null : ajv.errorsText(validate.errors);
}

interface Call {
  readonly method: "get" | "post" | "put" | "patch" | "delete";
  /** As the file has it. */
  readonly route: string;
  readonly target: string;
  readonly headers?: Readonly<Record<string, string>>;
  readonly body?: unknown;
  readonly status: number;
}

const anyVersion = { "if-match": "*" };
const entry = () =>
  JSON.parse(
    site.answer({
      method: "GET",
      target: "/api/nested/entries/p4",
      headers: { authorization: `Bearer ${TOKEN}` },
    }).body,
  ) as object;

const [PAGE, BATCH, ENTRY] = ["/api/flat/pages/{id}", "/api/flat/pages/batch", "/api/nested/entries/{ref}"] as const;
const [PAGES, REDIRECTS, ENTRIES] = ["/api/flat/pages", "/api/flat/redirects", "/api/nested/entries"] as const;

/** Every operation in every way in which it can end. */
const CALLS: readonly Call[] = [
  { method: "get", route: PAGES, target: `${PAGES}?limit=3&kind=product`, status: 200 },
  { method: "get", route: PAGES, target: `${PAGES}?since=2030-01-01T00:00:00Z`, status: 200 },
  { method: "get", route: PAGES, target: `${PAGES}?limit=0`, status: 400 },
  { method: "get", route: PAGE, target: "/api/flat/pages/p26", status: 200 },
  { method: "get", route: PAGE, target: "/api/flat/pages/none", status: 404 },
  {
    method: "patch",
    route: PAGE,
    target: "/api/flat/pages/p1",
    headers: anyVersion,
    body: { seo_title: null },
    status: 200,
  },
  { method: "patch", route: PAGE, target: "/api/flat/pages/p1", headers: anyVersion, body: "{", status: 400 },
  { method: "patch", route: PAGE, target: "/api/flat/pages/none", headers: anyVersion, body: {}, status: 404 },
  {
    method: "patch",
    route: PAGE,
    target: "/api/flat/pages/p1",
    headers: anyVersion,
    body: { url_path: "/goods/rope-2" },
    status: 409,
  },
  {
    method: "patch",
    route: PAGE,
    target: "/api/flat/pages/p1",
    headers: { "if-match": '"p1.99"' },
    body: {},
    status: 412,
  },
  {
    method: "patch",
    route: PAGE,
    target: "/api/flat/pages/p1",
    headers: anyVersion,
    body: { nothing: 1 },
    status: 422,
  },
  { method: "patch", route: PAGE, target: "/api/flat/pages/p1", body: {}, status: 428 },
  {
    method: "post",
    route: BATCH,
    target: BATCH,
    body: [
      { id: "p2", changes: { intro: "x" } },
      { id: "none", changes: {} },
    ],
    status: 200,
  },
  { method: "post", route: BATCH, target: BATCH, body: "no", status: 400 },
  { method: "post", route: BATCH, target: BATCH, body: [], status: 422 },
  { method: "get", route: REDIRECTS, target: REDIRECTS, status: 200 },
  { method: "post", route: REDIRECTS, target: REDIRECTS, body: { from: "/a", to: "/goods/rope-1" }, status: 201 },
  { method: "post", route: REDIRECTS, target: REDIRECTS, body: "{", status: 400 },
  { method: "post", route: REDIRECTS, target: REDIRECTS, body: { from: "a b" }, status: 422 },
  { method: "delete", route: REDIRECTS, target: `${REDIRECTS}?from=/a`, status: 204 },
  { method: "delete", route: REDIRECTS, target: `${REDIRECTS}?from=/a`, status: 404 },
  { method: "get", route: ENTRIES, target: `${ENTRIES}?per=3&page=2`, status: 200 },
  { method: "get", route: ENTRIES, target: `${ENTRIES}?page=none`, status: 400 },
  { method: "get", route: ENTRY, target: "/api/nested/entries/p26", status: 200 },
  { method: "get", route: ENTRY, target: "/api/nested/entries/none", status: 404 },
  { method: "put", route: ENTRY, target: "/api/nested/entries/p4", body: entry, status: 200 },
  { method: "put", route: ENTRY, target: "/api/nested/entries/p4", body: "{", status: 400 },
  {
    method: "put",
    route: ENTRY,
    target: "/api/nested/entries/p4",
    body: () => ({ ...entry(), entry: { ref: "p4", type: "product", rev: 99 } }),
    status: 409,
  },
  {
    method: "put",
    route: ENTRY,
    target: "/api/nested/entries/none",
    body: () => ({ ...entry(), entry: { ref: "none", type: "product", rev: 1 } }),
    status: 404,
  },
  { method: "put", route: ENTRY, target: "/api/nested/entries/p4", body: {}, status: 422 },
];

function sent({ method, target, headers, body }: Call) {
  const value: unknown = typeof body === "function" ? (body as () => unknown)() : body;
  const text = value === undefined ? "" : typeof value === "string" ? value : JSON.stringify(value);
  const answer = site.answer({
    method: method.toUpperCase(),
    target,
    headers: { authorization: `Bearer ${TOKEN}`, ...headers },
    body: text,
  });
  return { answer, value };
}

describe("the description of the interface", () => {
  it("is OpenAPI 3.1 and says where the site is", async () => {
    const result = await new Validator().validate(structuredClone(described));
    expect(result.errors).toBeUndefined();
    expect(result.valid).toBe(true);
    expect(described.openapi).toBe("3.1.0");
    expect(described.servers).toEqual([{ url: "http://127.0.0.1:4910" }]);
  });

  it.each(CALLS)("is true of $method $target → $status", (call) => {
    const { answer, value } = sent(call);
    expect(answer.status, answer.body).toBe(call.status);
    const operation = described.paths[call.route]![call.method]!;
    const response = operation.responses[String(call.status)];
    expect(response).toBeDefined();
    const type = answer.headers["content-type"];
    expect(Object.keys(response!.content ?? {})).toEqual(type === undefined ? [] : [type]);
    const at = ["paths", call.route, call.method] as const;
    if (type !== undefined)
      expect(
        wrongWith(JSON.parse(answer.body), ...at, "responses", String(call.status), "content", type, "schema"),
      ).toBeNull();
    const isBody = operation.requestBody !== undefined && typeof value === "object";
    const bodyType = Object.keys(operation.requestBody?.content ?? {})[0];
    if (isBody) {
      const wrong = wrongWith(value, ...at, "requestBody", "content", bodyType!, "schema");
      // What the file calls wrong the site refuses, and the other way round.
      expect(wrong === null, wrong ?? "").toBe(call.status !== 422);
    }
  });

  it("has been tried in every way that it names, but for what a token and too many requests do", () => {
    const tried = new Set(CALLS.map(({ method, route, status }) => `${method} ${route} ${status}`));
    const named = Object.entries(described.paths).flatMap(([route, methods]) =>
      Object.entries(methods).flatMap(([method, { responses }]) =>
        Object.keys(responses ?? {}).map((status) => `${method} ${route} ${status}`),
      ),
    );
    expect(named.filter((way) => !tried.has(way) && !/ (401|429)$/.test(way))).toEqual([]);
  });

  it("is true of a request without a token, and of one too many", () => {
    const list = { method: "GET", target: PAGES };
    const refused = site.answer(list);
    expect(refused.status).toBe(401);
    const busyFaults = new Faults(store, () => 0);
    const busy = new PracticeSite(store, { name: "x", base: "http://127.0.0.1:4910" }, TOKEN, busyFaults);
    busyFaults.set("too-many", 100);
    const late = busy.answer({ ...list, headers: { authorization: `Bearer ${TOKEN}` } });
    busyFaults.set("too-many", 0);
    expect(late).toMatchObject({ status: 429, headers: { "retry-after": "1" } });
    for (const { body } of [refused, late])
      expect(wrongWith(JSON.parse(body), "components", "schemas", "Problem")).toBeNull();
  });
});
