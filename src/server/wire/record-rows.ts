import { fieldsOf } from "../../core/connection/connection-file";
import { type Json } from "../../core/connection/json";
import { valueAt } from "../../core/connection/places";
import { FieldError, formOf, readField } from "../../core/connection/record";
import { type Connection, type FieldRule, type Fields } from "../../core/connection/schema";
import { type Target, TARGETS } from "../../core/design/import-targets";
import { type Mapping } from "../../formats/mapping";
import { type RefusedRow, type TableRow } from "../../formats/table";

/** What a record is called at the interface, its version, and in which forms its values stand. */
export interface RecordIdentity {
  readonly remote: string;
  readonly etag: string | null;
  /** Values that would be written in another form, as they stand there, by field. */
  readonly forms: ReadonlyMap<string, { readonly reading: string; readonly form: string }>;
}

/** A record as a row, and who it is. */
export interface RecordRow {
  readonly row: TableRow | RefusedRow;
  readonly identity: RecordIdentity | null;
}

const KIND = "kind";
const MAPPABLE: ReadonlySet<string> = new Set(TARGETS.filter((target) => target !== "skip" && target !== "attribute"));
/** Fields that go back as they stood. */
const FORMED = ["title", "description", "robots", "canonical", "meta-keywords"] as const;

/** Reads records as rows of a table, so that they come in as those of files do. */
export class RecordRows {
  readonly header: readonly string[];
  readonly mapping: Mapping;
  private readonly fields = new Map<string, Fields>();

  constructor(private readonly connection: Connection) {
    const kinds = Object.keys(connection.kinds);
    for (const kind of kinds) this.fields.set(kind, fieldsOf(connection, kind));
    const names = new Set(kinds.flatMap((kind) => Object.keys(this.fields.get(kind)!)));
    this.header = [KIND, ...[...names].filter((name) => name !== KIND)];
    this.mapping = { targets: this.header.map(targetOf), kind: kinds[0]! };
  }

  /** @param line counts the records. */
  row(kind: string, record: Json, line: number): RecordRow {
    const fields = this.fields.get(kind)!;
    const refuse = (reason: string): RecordRow => ({
      row: { line, reason, content: JSON.stringify(record).slice(0, 2000) },
      identity: null,
    });
    if (record === null || typeof record !== "object" || Array.isArray(record))
      return refuse("This record is no object");
    try {
      const texts = this.header.map((name) =>
        name === KIND ? kind : fields[name] === undefined ? null : readField(name, fields[name], record),
      );
      const remote = remoteOf(fields["id"]!, record);
      if (remote === "") return refuse(`The record has no id at ${placeOf(fields["id"]!)}`);
      const absent = texts.flatMap((text, i) => (text === null ? [i] : []));
      return {
        row: { line, cells: texts.map((text) => text ?? ""), absent },
        identity: { remote, etag: etagIn(this.connection, record), forms: formsIn(fields, record) },
      };
    } catch (error) {
      if (!(error instanceof FieldError)) throw error;
      return refuse(`${error.field}: ${error.message}`);
    }
  }
}

function targetOf(name: string): Target {
  return MAPPABLE.has(name) ? (name as Target) : "attribute";
}

/** What addresses of a record are made with: what stands at its id, before anything is put around it. */
function remoteOf(rule: FieldRule, record: Json): string {
  const place = placeOf(rule);
  const value = place === null ? undefined : valueAt(record, place);
  if (typeof value === "string" || typeof value === "number") return String(value);
  return readField("id", rule, record) ?? "";
}

function placeOf(rule: FieldRule): string | null {
  if (typeof rule === "string") return rule;
  return "at" in rule ? rule.at : (/\{([^{}]*?)(?::join\('[^']*'\))?\}/.exec(rule.parts)?.[1] ?? null);
}

/** The version that a record says it has. */
export function etagIn({ write }: Connection, record: Json): string | null {
  const { unchanged } = write ?? {};
  const value = unchanged?.at === undefined ? undefined : valueAt(record, unchanged.at);
  return typeof value === "string" || typeof value === "number" ? String(value) : null;
}

function formsIn(fields: Fields, record: Json): RecordIdentity["forms"] {
  const forms = new Map<string, { reading: string; form: string }>();
  for (const name of FORMED) {
    const rule = fields[name];
    const form = rule === undefined ? null : formOf(rule, record);
    if (form !== null) forms.set(name, form);
  }
  return forms;
}
