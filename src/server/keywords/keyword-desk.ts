import { type Designs } from "../../core/design/designs";
import { type Kind } from "../../core/design/kinds";
import { type Coverage } from "../../core/keywords/places";
import { type EditChange } from "../../store/edits";
import { type ItemsList } from "../items/items-list";
import { type WorkWatch } from "../workspace/watch";
import { type Workspace } from "../workspace/workspace";
import { type Competition, competitionsFor } from "./competing-pages";
import { KeywordCoverage } from "./keyword-coverage";
import { type MatrixRow, matrixRow } from "./keyword-matrix";
import { KeywordPages } from "./keyword-pages";
import { KeywordSuggestions } from "./keyword-suggestions";

/** A keyword for a page; `""` clears it. */
export interface Assignment {
  readonly kind: Kind;
  readonly id: number;
  readonly keyword: string;
}

/** Keywords over the whole site: who has which, who should have which, where they stand. */
export class KeywordDesk {
  private readonly pages: KeywordPages;
  private readonly covered: KeywordCoverage;
  private readonly suggested: KeywordSuggestions;

  constructor(
    private readonly workspace: Workspace,
    private readonly list: ItemsList,
  ) {
    this.pages = new KeywordPages(workspace);
    this.covered = new KeywordCoverage(workspace, this.pages);
    this.suggested = new KeywordSuggestions(workspace, this.pages);
  }

  matrix(designs: Designs, watch: WorkWatch = {}): MatrixRow[] {
    return this.list.views(designs, watch).kinds.map((view) => matrixRow(this.workspace.db, view));
  }

  /** Keywords with the pages that have them; those of the list first, the most searched for at the top. */
  coverage(query: {
    show: Coverage;
    search: string;
    from: number;
    count: number;
  }): ReturnType<KeywordCoverage["list"]> {
    return this.covered.list(query);
  }

  /** A keyword for every page that has none, as far as one can be found. */
  suggestions(
    query: { kind: Kind | "all"; from: number; count: number },
    watch: WorkWatch = {},
  ): ReturnType<KeywordSuggestions["list"]> {
    return this.suggested.list(query, watch);
  }

  /** Pages that compete for one keyword, the most of them first. */
  competing(
    designs: Designs,
    query: { from: number; count: number },
    watch: WorkWatch = {},
  ): { total: number; competitions: Competition[] } {
    const shared = this.covered.shared();
    const stretch = shared.slice(query.from, query.from + query.count);
    const views = this.list.views(designs, watch);
    return { total: shared.length, competitions: competitionsFor(stretch, this.workspace, this.pages, views) };
  }

  /** The changes that give pages their keywords; those that have them already are left out. */
  changesFor(assignments: readonly Assignment[]): EditChange[] {
    return assignments.flatMap(({ kind, id, keyword }) => {
      const data = this.workspace.data(kind);
      const row = data.rowOf(id);
      const before = row < 0 ? keyword : data.items.value("keyword", row);
      return before === keyword ? [] : [{ item: id, field: "keyword" as const, before, after: keyword }];
    });
  }
}
