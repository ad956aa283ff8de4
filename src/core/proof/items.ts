import { type FieldNode } from "../lines/ast";
import { BUILT_IN_NAMES } from "../lines/fields";
import { applyFilter, type FilterContext } from "../lines/apply-filter";
import { MOST_CHARACTERS, readsOtherFields, type Writing } from "../lines/filters";
import { type KnownFields } from "../lines/parse";
import { printField } from "../lines/print";
import { type FieldFormat } from "../text/figures";
import { foldedSpaces, plainText } from "../text/plain";
import { withoutFullStop } from "../text/ends";
import { ValueTable } from "./values";

/** One field of every item: `codes[row]` is the number of the row's value in the table, 0 where it has none. */
export interface Column {
  readonly codes: Int32Array;
  readonly table: ValueTable;
}

/** Items held column by column. Fields that are not loaded yet are asked of `load` when a line first uses them. */
export class ItemSet {
  private readonly columns = new Map<string, Column>();
  private readonly derived = new Map<string, Column>();
  private readonly empty: Column;

  constructor(
    /** How many items there are. */
    readonly size: number,
    private readonly options: {
      readonly writing: Writing;
      /** How fields write their figures; those not named write them as most do. */
      readonly formats?: Readonly<Record<string, FieldFormat>>;
      /** Brings a column in, or says that no item has the field. */
      readonly load: (field: string) => Column | null;
      /** Names of all fields that some item has. */
      readonly fields: readonly string[];
      /** What becomes of a field's value, filters applied, before it stands in a line; left out, nothing. */
      readonly written?: (value: string, field: FieldNode) => string;
    },
    /** Columns that are there from the first. */
    held: ReadonlyMap<string, Column> = new Map(),
  ) {
    for (const [field, column] of held) this.columns.set(field, column);
    this.empty = { codes: new Int32Array(size), table: new ValueTable([""]) };
  }

  /** Every field a line may use here: those that items have, and the built-in ones. */
  get known(): KnownFields {
    const own = new Set(this.options.fields);
    return {
      has: (name) => own.has(name) || BUILT_IN_NAMES.has(name),
      names: () => new Set([...own, ...BUILT_IN_NAMES]),
    };
  }

  /** Whether a field's column is in memory, so that asking for a value loads nothing. */
  holds(field: string): boolean {
    return this.columns.has(field);
  }

  column(field: string): Column {
    let column = this.columns.get(field);
    if (!column) this.columns.set(field, (column = this.options.load(field) ?? this.empty));
    return column;
  }

  /**
   * The items with a field's value changed on some rows; this set stays as it is. Columns that lines made of the field are
   * made anew when they are asked for. `null` where the field is not in memory, or no row had another value.
   */
  withValues(field: string, rows: readonly number[], values: readonly string[]): ItemSet | null {
    const column = this.columns.get(field);
    if (!column) return null;
    const changed = rows.flatMap((row, i) => (column.table.values[column.codes[row]!] === values[i] ? [] : [i]));
    if (changed.length === 0) return null;
    const codes = column.codes.slice();
    const codeOf = new Map(column.table.values.map((value, code) => [value, code]));
    const added: string[] = [];
    for (const i of changed) {
      const value = values[i]!;
      let code = codeOf.get(value);
      if (code === undefined) {
        codeOf.set(value, (code = codeOf.size));
        added.push(value);
      }
      codes[rows[i]!] = code;
    }
    const table = added.length > 0 ? column.table.extended(added) : column.table;
    return new ItemSet(this.size, this.options, new Map([...this.columns, [field, { codes, table }]]));
  }

  /** Others with these items' fields: what they have is brought in by `load` when it is first asked for. */
  gathered(size: number, fields: readonly string[], load: (field: string) => Column | null): ItemSet {
    return new ItemSet(size, { ...this.options, fields, load });
  }

  /** The same items, with something made of each field's value before it stands in a line. */
  writtenBy(written: (value: string, field: FieldNode) => string): ItemSet {
    return new ItemSet(this.size, { ...this.options, load: (field) => this.column(field), written });
  }

  /** How a field writes its figures. */
  formatOf(field: string): FieldFormat {
    const { formats } = this.options;
    return formats && Object.hasOwn(formats, field) ? formats[field]! : AS_MOST_DO;
  }

  value(field: string, row: number): string {
    const column = this.column(field);
    return column.table.values[column.codes[row]!]!;
  }

  /** The column of a field of a line: its sources and filters worked out for every item, once. `fit` is left to the line. */
  fieldColumn(field: FieldNode): Column {
    const only = field.sources[0]!;
    const filters = field.filters.filter((filter) => filter.name !== "fit");
    const { written } = this.options;
    if (!written && field.sources.length === 1 && only.type === "name" && filters.length === 0 && !field.isLessStop)
      return this.column(only.name);
    const key = printField({ ...field, filters }) + (field.isLessStop ? "." : "");
    let column = this.derived.get(key);
    if (!column) {
      if (this.derived.size >= MOST_DERIVED) this.derived.delete(this.derived.keys().next().value!);
      this.derived.set(key, (column = this.derive({ ...field, filters })));
    }
    return column;
  }

  private derive(field: FieldNode): Column {
    const writer = new ColumnWriter(this.size);
    const sources = field.sources.map((source) => (source.type === "name" ? this.column(source.name) : source.value));
    const apartByRow = field.filters.some((filter) => readsOtherFields(filter.name));
    const contexts = field.sources.map((source) => this.contextOf(source));
    const done = new Map<Column | string, Int32Array>();
    for (let row = 0; row < this.size; row++) {
      let value = "";
      let from: Column | string = "";
      let code = 0;
      let place = 0;
      for (const [i, source] of sources.entries()) {
        place = i;
        if (typeof source === "string") {
          value = source;
          code = 0;
        } else {
          code = source.codes[row]!;
          value = source.table.values[code]!;
        }
        from = source;
        if (value !== "") break;
      }
      if (value === "") continue;
      if (apartByRow) {
        writer.set(row, this.filtered(field, value, contexts[place]!.of(row)));
        continue;
      }
      let known = done.get(from);
      if (!known)
        done.set(from, (known = new Int32Array(typeof from === "string" ? 1 : from.table.values.length).fill(-1)));
      let own = known[code]!;
      if (own < 0) known[code] = own = writer.code(this.filtered(field, value, contexts[place]!.of(row)));
      writer.codes[row] = own;
    }
    return writer.column();
  }

  /** What filters are told of a source's values: one thing for all rows, which is about the row it was last asked for. */
  private contextOf(source: FieldNode["sources"][number]): { of: (row: number) => FilterContext } {
    const format = source.type === "name" ? this.formatOf(source.name) : AS_MOST_DO;
    let row = 0;
    const context = { ...this.options.writing, format, valueOf: (name: string) => this.value(name, row) };
    return {
      of: (asked) => {
        row = asked;
        return context;
      },
    };
  }

  private filtered(field: FieldNode, value: string, context: FilterContext): string {
    let result = foldedSpaces(value);
    const most = Math.max(MOST_CHARACTERS, 2 * value.length);
    for (const filter of field.filters) result = applyFilter(filter.name, result, filter.args, context, most);
    const whole = field.isLessStop ? withoutFullStop(result) : result;
    return this.options.written?.(whole, field) ?? whole;
  }
}

const MOST_DERIVED = 64;
const AS_MOST_DO: FieldFormat = {};

/** Shorter stretches of a text are copied by the engine itself. */
const LONG_STRETCH = 12;

/** The value by itself: it may be a stretch of a much longer text, which would be held for it. */
function owned(value: string): string {
  return value.length > LONG_STRETCH ? ` ${value}`.slice(1) : value;
}

/** Fills a column value by value, each distinct one kept once. */
export class ColumnWriter {
  readonly codes: Int32Array;
  private readonly values: string[] = [""];
  private readonly numbers = new Map<string, number>([["", 0]]);

  constructor(size: number) {
    this.codes = new Int32Array(size);
  }

  /** The number of a value; a new one for a value not seen before. */
  code(value: string): number {
    let code = this.numbers.get(value);
    if (code === undefined) {
      code = this.values.length;
      const own = owned(value);
      this.values.push(own);
      this.numbers.set(own, code);
    }
    return code;
  }

  set(row: number, value: string): void {
    this.codes[row] = this.code(value);
  }

  /** Sets a row's value where no other row has it, without looking whether one has. */
  setAlone(row: number, value: string): void {
    if (value === "") return;
    this.codes[row] = this.values.length;
    this.values.push(owned(value));
  }

  valueAt(row: number): string {
    return this.values[this.codes[row]!]!;
  }

  column(): Column {
    return { codes: this.codes, table: new ValueTable(this.values) };
  }
}

/** A record of field values as brought in; numbers and texts alike, names in any case. */
export type ItemRecord = Readonly<Record<string, unknown>>;

/** A record's value as plain text, `""` for what is none. */
export function textValue(value: unknown): string {
  if (typeof value === "string") return plainText(value);
  if (typeof value === "number") return Number.isFinite(value) ? String(value) : "";
  if (typeof value === "boolean") return String(value);
  if (Array.isArray(value)) return value.map(textValue).filter(Boolean).join(", ");
  return "";
}

/** How records are read. */
interface RecordReading {
  readonly writing?: Writing;
  /** How fields write their figures. */
  readonly formats?: Readonly<Record<string, FieldFormat>> | undefined;
  /** Whether the values were cleaned already: they are not cleaned twice. */
  readonly areClean?: boolean;
}

/** An item set of records held in memory; constants stand for fields that a record lacks. */
export function itemSetOf(
  records: readonly ItemRecord[],
  constants: ReadonlyMap<string, string> = new Map(),
  { writing = { locale: "en", fixedWords: [] }, formats = {}, areClean = false }: RecordReading = {},
): ItemSet {
  const writers = new Map<string, ColumnWriter>();
  records.forEach((record, row) => {
    for (const [key, value] of Object.entries(record)) {
      const field = key.toLowerCase();
      let writer = writers.get(field);
      if (!writer) writers.set(field, (writer = new ColumnWriter(records.length)));
      writer.set(row, areClean && typeof value === "string" ? value : textValue(value));
    }
  });
  const fields = [...new Set([...writers.keys(), ...constants.keys()])];
  const load = (field: string): Column | null => {
    const writer = writers.get(field);
    const constant = plainText(constants.get(field) ?? "");
    if (!writer) return constant ? constantColumn(records.length, constant) : null;
    if (constant) for (let row = 0; row < records.length; row++) if (writer.codes[row] === 0) writer.set(row, constant);
    return writer.column();
  };
  return new ItemSet(records.length, { writing, formats, load, fields });
}

/** A column in which every item has the same value. */
export function constantColumn(size: number, value: string): Column {
  return value === ""
    ? { codes: new Int32Array(size), table: new ValueTable([""]) }
    : { codes: new Int32Array(size).fill(1), table: new ValueTable(["", value]) };
}
