import * as z from "zod";
import { kindIdSchema } from "../design/kind-schema";
import { partsOf } from "./parts";
import { checkPlace } from "./places";
import { checkUri } from "./uri";

/** Adds an issue where a check of a text throws, with its words. */
const checked =
  (check: (text: string) => void) =>
  (text: string, context: z.RefinementCtx): void => {
    try {
      check(text);
    } catch (error) {
      context.addIssue({ code: "custom", message: (error as Error).message });
    }
  };

const place = z
  .string()
  .max(2000)
  .superRefine(checked(checkPlace))
  .describe(
    "A JSON Pointer (RFC 6901), such as /content/title, or a JSONPath (RFC 9535), such as $.meta[?@.key=='title'].value",
  );

/** A URI template is one of our own names, or of the record’s places that the description names. */
const uri = (names: readonly string[]) =>
  z
    .string()
    .max(2000)
    .superRefine(checked((text) => checkUri(text, names)))
    .describe(`A URI template (RFC 6570) below the base, with ${names.join(", ")}`);

export const DECODES = ["none", "entities", "html"] as const;

const fieldSchema = z
  .union([
    place,
    z.strictObject({
      at: place,
      decode: z.enum(DECODES).default("none").describe("entities: &amp; stands for &. html: tags are left out as well"),
      join: z.string().max(20).optional().describe("What is put between the values of a list"),
    }),
    z.strictObject({
      parts: z
        .string()
        .max(2000)
        .superRefine(checked((text) => void partsOf(text)))
        .describe("Put together of several places, such as /{/place/segments:join('/')}/{/place/leaf}"),
    }),
  ])
  .describe("Where a field of ours stands in a record");

const fieldsSchema = z
  .record(z.string().min(1).max(60), fieldSchema)
  .describe(
    "Our fields, each with where it stands: id, address, name, title, description, …, or any name for a field of the site’s own",
  );

const headersSchema = z
  .record(z.string().regex(/^[A-Za-z0-9!#$%&'*+.^_`|~-]+$/, "the name of a header"), z.string().max(2000))
  .describe("Headers of every request; {secret} stands for the secret, which is kept elsewhere");

/** Headers that nothing but a secret is for. */
const SECRET_HEADERS = /^(?:authorization|proxy-authorization|cookie|.*(?:api-?key|token|secret).*)$/i;

const nextSchema = z.discriminatedUnion("by", [
  z.strictObject({ by: z.literal("link") }).describe("A Link header with rel=next (RFC 8288)"),
  z.strictObject({ by: z.literal("cursor"), at: place }).describe("A cursor in the answer"),
  z.strictObject({ by: z.literal("page"), first: z.number().int().min(0).default(1) }).describe("Counted pages"),
  z.strictObject({ by: z.literal("offset") }).describe("Counted records"),
  z.strictObject({ by: z.literal("none") }).describe("All at once"),
]);

const LIST_NAMES = ["limit", "page", "offset", "cursor", "since"];

const listSchema = z.strictObject({
  url: uri(LIST_NAMES),
  records: place
    .default("")
    .describe("Where the list of records is in an answer; the whole answer where it is left out"),
  limit: z.number().int().min(1).max(10_000).default(100).describe("How many records are asked for at once"),
  next: nextSchema.describe("How the answer says what follows"),
});

const jsonTemplate = z.json();

const unchangedSchema = z
  .discriminatedUnion("by", [
    z.strictObject({
      by: z.literal("etag"),
      at: place.optional().describe("Where a record says its version, as the ETag header does"),
    }),
    z.strictObject({
      by: z.literal("field"),
      at: place.describe("The version in the record, which is sent back with it"),
    }),
  ])
  .describe("How a change in between is noticed");

const method = z.enum(["PATCH", "PUT", "POST"]);

const batchSchema = z
  .strictObject({
    method: method.default("POST"),
    url: uri([]),
    most: z.number().int().min(2).max(1000),
    item: jsonTemplate.describe("One change: {id}, {etag} and {changes}, which is the merge patch"),
    body: jsonTemplate.default("{list}").describe("The body around them: {list}"),
    results: place.describe("Where the list of results is, in the order of the changes"),
    status: place.describe("Where a result says its HTTP status"),
    etag: place.optional(),
  })
  .describe("Several changes at once");

const writeSchema = z.strictObject({
  method,
  url: uri(["id"]),
  body: z
    .union([z.literal(["patch", "record"]), jsonTemplate])
    .describe(
      "patch: a merge patch (RFC 7396). record: the whole record as it was read, with our values in it. Else a JSON template",
    ),
  unchanged: unchangedSchema.optional(),
  batch: batchSchema.optional(),
});

const redirectsSchema = z.strictObject({
  make: z.strictObject({ method: z.enum(["POST", "PUT"]), url: uri(["from", "to"]), body: jsonTemplate }),
  remove: z.strictObject({ method: z.literal("DELETE").default("DELETE"), url: uri(["from"]) }).optional(),
});

const limitsSchema = z.strictObject({
  perSecond: z.number().min(0.1).max(1000).default(5).describe("Requests a second"),
  atOnce: z.number().int().min(1).max(32).default(2).describe("Requests at the same time"),
  timeoutSeconds: z.number().min(1).max(600).default(30).describe("How long an answer may take"),
  giveUpMinutes: z.number().min(0.01).max(1440).default(10).describe("How long the site may fail before a run stops"),
});

const baseSchema = z
  .url({ protocol: /^https?$/, error: "an address that begins with http:// or https://" })
  .max(500)
  .superRefine(
    checked((text) => {
      const { username, password, search, hash } = new URL(text);
      if (username !== "" || password !== "")
        throw new Error("No name and password in an address: use headers with {secret}");
      if (search !== "" || hash !== "")
        throw new Error("An address without “?” and “#”: what belongs behind them goes into the url of a list");
    }),
  )
  .transform((text) => text.replace(/\/+$/, ""));

const connectionObject = z.strictObject({
  $schema: z.string().optional(),
  version: z.literal(1),
  name: z.string().min(1).max(80).describe("What the description is called"),
  base: baseSchema.describe("What all addresses below begin with"),
  visitors: baseSchema
    .optional()
    .describe("Where visitors get the pages, where that is not the site’s address: its pages are checked there"),
  headers: headersSchema.default({}),
  limits: limitsSchema.prefault({}),
  fields: fieldsSchema,
  kinds: z
    .record(kindIdSchema, z.strictObject({ list: listSchema, fields: fieldsSchema.optional() }))
    .refine((kinds) => Object.keys(kinds).length > 0, "at least one kind")
    .describe("Kinds of pages, each with its list; fields of its own go before those of all"),
  read: z
    .strictObject({ url: uri(["id"]), record: place.default("") })
    .optional()
    .describe("How one page is read"),
  write: writeSchema.optional(),
  redirects: redirectsSchema.optional(),
});

/** How a site’s interface is spoken to: a file without secrets. */
export const connectionSchema = connectionObject.superRefine((connection, context) => {
  const add = (path: (string | number)[], message: string) => context.addIssue({ code: "custom", path, message });
  const { fields, headers, kinds, read, write } = connection;
  for (const [name, value] of Object.entries(headers))
    if (SECRET_HEADERS.test(name) && !value.includes("{secret}"))
      add(
        ["headers", name],
        "write {secret} where the secret goes, and type the secret in beside the file: it is kept elsewhere",
      );
  const lacking = Object.keys(kinds).filter((kind) => !(kinds[kind]!.fields?.["id"] ?? fields["id"]));
  if (lacking.length > 0)
    add(["fields"], `no “id”: without it pages of ${lacking.join(", ")} cannot be told from each other`);
  if (!write) return;
  const whole = write.body === "record";
  if (!read) add(["read"], "missing: what was sent and not confirmed has to be read before it is sent again");
  if (write.unchanged?.by === "field" && !whole)
    add(["write", "unchanged"], "“field” is for whole records, which carry it; otherwise it is “etag”");
  if (write.batch && whole)
    add(["write", "batch"], "whole records go out one at a time; for several at once the body is “patch”");
});
export type Connection = z.output<typeof connectionSchema>;
export type FieldRule = z.output<typeof fieldSchema>;
export type Fields = z.output<typeof fieldsSchema>;
export type ListRule = z.output<typeof listSchema>;
export type WriteRule = z.output<typeof writeSchema>;
export type BatchRule = z.output<typeof batchSchema>;

/** The schema of connection files for editors: JSON Schema 2020-12. */
export function connectionJsonSchema(): object {
  return z.toJSONSchema(connectionObject, { io: "input", unrepresentable: "any" });
}
