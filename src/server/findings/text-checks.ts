import { type TextCase, textBits } from "../../core/checks/check-text";
import { switchedOn } from "../../core/checks/settings";
import { type TextName, TEXTS, textsOf } from "../../core/design/kinds";
import { FORMS, type Keyword, type Vocabulary } from "../../core/keywords/place";
import { Cancelled } from "../../core/proof/prove-set";
import { HAND, LIVE, type TextProof } from "../../core/proof/text-proof";
import { type ValueTable } from "../../core/proof/values";
import { type KindData } from "../workspace/kind-data";
import { type WorkWatch } from "../workspace/watch";
import { type CheckedAs, CheckedText } from "./checked-text";
import { type KindSide, type SiteContext } from "./site-context";

/** What is known of a text from comparing it with others. */
export interface Compared {
  readonly duplicate: boolean;
  readonly near: boolean;
  /** Another text of the page reads the same. */
  readonly same: boolean;
}

/** What is to be checked: a text on one side of a kind. */
export interface TextCheck extends KindSide {
  readonly text: TextName;
  /** Whether any other page reads the same. */
  readonly isDuplicate: (row: number) => boolean;
  /** Whether wording is looked at here, and not by the search for near duplicates. */
  readonly wording: boolean;
}

/** Where fewer texts are the same, all are checked, their wording in the thread that searches for near duplicates. */
const MOST = 0.75;

/** Flags that a text's findings depend on besides its wording. */
const FLAGS = { duplicate: 1, emptyField: 2, same: 4, fits: 8, seen: 16, told: 32 } as const;

/** Checks texts one by one; what was checked before as it is now is not checked again. */
export class TextChecks {
  private readonly checked = new Map<string, { readonly loading: object; readonly text: CheckedText }>();
  private readonly ready = new WeakMap<ValueTable, (Keyword | null)[]>();

  /** Whether all rows of a text were checked whole before, with these settings. */
  isKnown(side: KindSide, text: TextName, context: SiteContext): boolean {
    if (this.known(side, text, context) !== null) return true;
    // A draft leaves many texts as they are: of those it is known what was found on the live side.
    const live = side.side === "draft" ? this.known({ ...side, side: "live" }, text, context) : null;
    const proof = side.proofs[text];
    if (!live || live.sameTexts(proof) < MOST * proof.size) return false;
    this.keep(side, text, context, live.copy());
    return true;
  }

  /** The findings of each row's text, near duplicates aside. */
  check(asked: TextCheck, context: SiteContext, watch: WorkWatch): CheckedText {
    const { kind, side, text, data, proofs, wording } = asked;
    const proof = proofs[text];
    const checked = this.known(asked, text, context) ?? new CheckedText(proof.size);
    // Without its wording it is not whole yet: it counts as known when that is there, too.
    if (wording) this.keep(asked, text, context, checked);
    const on = textsOf(kind).includes(text) ? switchedOn(context.checks, text) : 0;
    const keywords = data.items.column("keyword").codes;
    for (let row = 0; row < proof.size; row++) {
      if (row % 1024 === 0) {
        if (watch.cancelled?.()) throw new Cancelled();
        watch.progress?.({ step: "checking", kind, text, side, share: row / proof.size });
      }
      const compared = { duplicate: asked.isDuplicate(row), near: false, same: readsLikeOther(asked, row) };
      const as = checkedAs(asked, row, compared, keywords[row]!);
      if (checked.was(row, as)) continue;
      const bits = textBits(text, this.caseOf(asked, text, row, compared, context), context, wording) & on;
      checked.note(row, as, bits);
    }
    return checked;
  }

  /** Remembers what was checked of a text as long as its kind is not loaded anew and the settings are the same. */
  keep({ kind, side, data }: KindSide, text: TextName, { stamp }: SiteContext, checked: CheckedText): void {
    const name = `${kind} ${side} ${text}`;
    for (const [known, { loading }] of this.checked)
      if (known.startsWith(name) && (loading !== data.loading || known !== `${name} ${stamp}`))
        this.checked.delete(known);
    this.checked.set(`${name} ${stamp}`, { loading: data.loading, text: checked });
  }

  /** One text with what its findings depend on. */
  caseOf(
    { data, proofs }: KindSide,
    text: TextName,
    row: number,
    { duplicate, near, same }: Compared,
    context: SiteContext,
  ): TextCase {
    const proof = proofs[text];
    return {
      text: proof.textOf(row),
      fits: text === "slug" || proof.fits[row] === 1,
      room: context.rooms[text],
      keywordAt: proof.keywordAt[row]!,
      keywordSeen: proof.keywordSeen[row] === 1,
      duplicate,
      nearDuplicate: near,
      emptyField: proof.emptyFields[row] === 1,
      title: text === "description" ? proofs.title.textOf(row) : "",
      sameAsOther: same,
      name: data.items.value("name", row),
      intro: text === "description" ? data.items.value("intro", row) : "",
      path: data.paths[row]!,
      form: proof.form[row]! === 0 ? null : FORMS[proof.form[row]! - 1]!,
      told: text === "slug" && proofs.told && isToldByLine(proofs.told, row) ? proofs.told.textOf(row) : null,
      keyword: this.keywordOf(data, row, context.vocabulary),
    };
  }

  private known({ kind, side, data }: KindSide, text: TextName, { stamp }: SiteContext): CheckedText | null {
    const known = this.checked.get(`${kind} ${side} ${text} ${stamp}`);
    return known?.loading === data.loading ? known.text : null;
  }

  /** A row's keyword made ready; each distinct one is looked up once, not once a text. */
  private keywordOf(data: KindData, row: number, vocabulary: Vocabulary): Keyword | null {
    const { codes, table } = data.items.column("keyword");
    const code = codes[row]!;
    if (code === 0) return null;
    let ready = this.ready.get(table);
    if (!ready) this.ready.set(table, (ready = []));
    return (ready[code] ??= vocabulary.keyword(table.values[code]!));
  }
}

/** Whether a title or description reads like the other of its page. */
function readsLikeOther({ text, proofs }: TextCheck, row: number): boolean {
  if (text === "slug") return false;
  const proof = proofs[text];
  const other = proofs[text === "title" ? "description" : "title"];
  return (
    proof.lengths[row] !== 0 &&
    other.compared1[row] === proof.compared1[row] &&
    other.compared2[row] === proof.compared2[row]
  );
}

function checkedAs({ text, proofs }: TextCheck, row: number, compared: Compared, keyword: number): CheckedAs {
  const proof = proofs[text];
  const told = text === "slug" ? proofs.told : null;
  return {
    hash1: proof.exact1[row]!,
    hash2: proof.exact2[row]!,
    other: text === "description" ? proofs.title.exact1[row]! : told ? told.exact1[row]! : 0,
    keyword,
    flags:
      (compared.duplicate ? FLAGS.duplicate : 0) |
      (proof.emptyFields[row] === 1 ? FLAGS.emptyField : 0) |
      (compared.same ? FLAGS.same : 0) |
      (proof.fits[row] === 1 ? FLAGS.fits : 0) |
      (proof.keywordSeen[row] === 1 ? FLAGS.seen : 0) |
      (told && isToldByLine(told, row) ? FLAGS.told : 0),
  };
}

/** Whether a line makes a row's text. */
export function isToldByLine(proof: TextProof, row: number): boolean {
  return proof.from[row] !== HAND && proof.from[row] !== LIVE && proof.lengths[row] !== 0;
}

/** All texts by name. */
export function ofEachText<T>(of: (text: TextName) => T): Record<TextName, T> {
  return Object.fromEntries(TEXTS.map((text) => [text, of(text)])) as Record<TextName, T>;
}
