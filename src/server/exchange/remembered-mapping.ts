import { fieldFormatSchema } from "../../core/design/schema";
import { type Target, TARGETS } from "../../core/design/import-targets";
import { type Kind, kindOf, type WithKinds } from "../../core/design/kinds";
import { BY_HAND_CHOICES, type ByHandChoice } from "../../core/infer/by-hand";
import { type FieldFormat } from "../../core/text/figures";
import { correctedByValues } from "../../formats/guess-by-values";
import { guessTargets } from "../../formats/guess-by-names";
import { type Mapping, mappingError } from "../../formats/mapping";
import { rememberColumns, rememberedColumns } from "../../store/import-columns";
import { type Db } from "../../store/open";

/** What the columns of a file are taken for at first. */
export interface FirstMapping {
  readonly targets: readonly Target[];
  /** By column, of those that were said before; `undefined` where nothing was. */
  readonly formats: readonly (FieldFormat | null | undefined)[];
  /** `null` where no file with this very header was brought in. */
  readonly kind: Kind | null;
  readonly byHand: ByHandChoice | null;
  /** Whether some column is otherwise than it would be guessed. */
  readonly isRemembered: boolean;
}

/**
 * Columns are what they were when such were brought in before, and otherwise what their names and values tell.
 *
 * @param rows the first of the file.
 */
export function firstMapping(
  db: Db,
  site: WithKinds,
  header: readonly string[],
  rows: readonly (readonly string[])[],
): FirstMapping {
  const guessed = correctedByValues(guessTargets(header), rows);
  const known = rememberedColumns(db, header);
  const targets = guessed.map((target, i) => {
    const before = known.columns[i]?.target as Target | undefined;
    return before && TARGETS.includes(before) ? before : target;
  });
  const kind = known.file && kindOf(site, known.file.kind)?.id;
  const byHand = known.file && BY_HAND_CHOICES.find((own) => own === known.file!.byHand);
  const formats = known.columns.map((column) => {
    if (!column) return undefined;
    return fieldFormatSchema.nullable().safeParse(column.format).data;
  });
  const isUsable = mappingError({ targets, kind: kind ?? "product" }, header) === null;
  if (!isUsable)
    return { targets: guessed, formats: guessed.map(() => undefined), kind: null, byHand: null, isRemembered: false };
  const isRemembered = targets.some((target, i) => target !== guessed[i]) || Boolean(known.file);
  return { targets, formats, kind: kind ?? null, byHand: byHand ?? null, isRemembered };
}

/** Remembers what a person said of a file, for the next one of its kind. */
export function rememberMapping(db: Db, header: readonly string[], mapping: Mapping, byHand: ByHandChoice): void {
  const { targets, formats, kind } = mapping;
  const columns = header.map((_, i) => ({ target: targets[i]!, format: formats?.[i] ?? null }));
  db.transaction(() => rememberColumns(db, header, columns, { kind, byHand })).immediate();
}
