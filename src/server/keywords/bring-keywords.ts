import { plainText } from "../../core/text/plain";
import { readNumber } from "../../core/text/figures";
import { fieldName } from "../../core/lines/fields";
import { readTable, tableShape } from "../../formats/csv-read";
import { keywordWriter, noteKeywordListChange } from "../../store/listed-keywords";
import { type Db } from "../../store/open";
import { uploadedFile } from "../exchange/uploads";

/** Which columns of a table are what. */
export interface KeywordMapping {
  readonly keyword: number;
  readonly volume: number | null;
  /** The first line is a keyword, too, and not the columns' names. */
  readonly firstToo: boolean;
}

/** What a list of keywords looks like before it is brought in. */
export interface KeywordsLook {
  readonly token: string;
  readonly header: readonly string[];
  readonly rows: readonly (readonly string[])[];
  readonly guess: KeywordMapping;
}

export interface BroughtKeywords {
  readonly added: number;
  readonly updated: number;
  /** Rows without a keyword, or that cannot be read. */
  readonly left: number;
}

const LOOKED_AT = 6;
const BATCH = 1000;
const KEYWORD_NAMES = /keyword|phrase|query|queries|term|suchbegriff|mot|palabra/i;
const VOLUME_NAMES = /volume|search(es)?\b|impressions|demand/i;
const MOST_CHARACTERS = 200;

/** Looks at a list's first rows and guesses which columns are what. */
export async function lookAtKeywords(token: string): Promise<KeywordsLook> {
  const file = uploadedFile(token);
  const shape = await tableShape(file);
  const rows: (readonly string[])[] = [];
  for await (const piece of readTable(file, shape)) {
    for (const row of piece) if ("cells" in row && rows.length < LOOKED_AT) rows.push(row.cells);
    if (rows.length === LOOKED_AT) break;
  }
  const named = shape.header.findIndex((name) => KEYWORD_NAMES.test(name));
  const isNumber = (column: number) =>
    rows.length > 0 && rows.every((cells) => readNumber(cells[column] ?? "") !== null);
  const keyword =
    named >= 0
      ? named
      : Math.max(
          0,
          shape.header.findIndex((_, i) => !isNumber(i)),
        );
  const volume = shape.header.findIndex(
    (name, i) => i !== keyword && (VOLUME_NAMES.test(name) || (named < 0 && isNumber(i))),
  );
  const hasNames = named >= 0 || shape.header.some((name) => VOLUME_NAMES.test(name));
  return {
    token,
    header: shape.header,
    rows,
    guess: { keyword, volume: volume < 0 ? null : volume, firstToo: !hasNames },
  };
}

/** Puts a list's keywords on the site's list; what else stands in a row stays with its keyword. */
export async function bringKeywords(
  db: Db,
  token: string,
  mapping: KeywordMapping,
  progress: (rows: number) => void = () => {},
): Promise<BroughtKeywords> {
  const file = uploadedFile(token);
  const shape = await tableShape(file);
  const put = keywordWriter(db);
  const figures = { added: 0, updated: 0, left: 0 };
  const names = shape.header.map((name, i) => fieldName(name) || `column_${i + 1}`);
  const take = (cells: readonly string[]) => {
    const keyword = plainText(cells[mapping.keyword] ?? "");
    if (keyword === "" || keyword.length > MOST_CHARACTERS) {
      figures.left++;
      return;
    }
    const columns = mapping.firstToo
      ? []
      : names.flatMap((name, i): [string, string][] =>
          i === mapping.keyword || i === mapping.volume || (cells[i] ?? "").trim() === ""
            ? []
            : [[name, plainText(cells[i]!)]],
        );
    figures[
      put(
        keyword,
        mapping.volume === null ? null : readNumber(cells[mapping.volume] ?? ""),
        Object.fromEntries(columns),
      )
    ]++;
  };
  let batch: (readonly string[])[] = mapping.firstToo ? [shape.header] : [];
  let rows = 0;
  const flush = () => {
    db.transaction(() => {
      batch.forEach(take);
      noteKeywordListChange(db);
    }).immediate();
    rows += batch.length;
    batch = [];
    progress(rows);
  };
  for await (const piece of readTable(file, shape))
    for (const row of piece) {
      if ("cells" in row) batch.push(row.cells);
      else figures.left++;
      if (batch.length >= BATCH) flush();
    }
  flush();
  return figures;
}
