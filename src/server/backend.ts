import { randomUUID } from "node:crypto";
import { join } from "node:path";
import { withRule } from "../core/design/change-rules";
import { EMPTY_DESIGN, type KindDesign, type Site } from "../core/design/design";
import { BOARD_KINDS, type Kind } from "../core/design/kinds";
import { type Mapping } from "../formats/mapping";
import { readDesign, type StoredDesign, writeDesign } from "../store/designs";
import { countByKind } from "../store/items";
import { type Db, openStore } from "../store/open";
import {
  changesAfter,
  type ChangeWithName,
  historyOfItem,
  listRuns,
  readRun,
  type RunFigures,
  setRunStatus,
  stopInterruptedRuns,
} from "../store/runs";
import { readSite, revision, writeSite } from "../store/site";
import { forgetNamedDraft, listNamedDrafts, type NamedDraft, putAside, readNamedDraft } from "../store/named-drafts";
import { editSteps, type EditSteps, readEdit, setEdit, stopInterruptedEdits } from "../store/edits";
import { forgetView, listViews, type NamedView, putView } from "../store/named-views";
import { clearKeywordList } from "../store/listed-keywords";
import { type BroughtKeywords, type KeywordMapping, type KeywordsLook, lookAtKeywords } from "./keywords/bring-keywords";
import { type Assignment } from "./keywords/keyword-desk";
import { applyEdit, type EditProgress } from "./edits/apply-edit";
import { type EditAction } from "./edits/plan-edit";
import { createTakeBack, type RunProgress } from "./runs/apply-run";
import { adoptLinesFile, type LinesFileReview, reviewLinesFile, writeLinesFile } from "./exchange/exchange-lines";
import { type FirstLook, firstLook, forgetFile, type ImportProgress, receiveFile } from "./exchange/bring-in";
import { type JobMethods } from "./jobs/jobs-worker";
import { extraLines, type OutFormat, type Outgoing, outgoingLines, refusedLines, textStream } from "./exchange/take-out";
import { type Choice, type ProofMethods } from "./workspace/proof-worker";
import { type Designs } from "./review/review";
import { CancelledCall, WorkerClient } from "./threads/rpc";

/** Long work under way or just ended, as a page can ask for it at any time. */
export interface Job {
  readonly id: string;
  readonly type: "run" | "import" | "edit";
  /** The run, for a run; the import's file, for an import. */
  readonly run: number | null;
  readonly label: string;
  status: "running" | "done" | "stopped" | "failed";
  done: number;
  total: number | null;
  message: string | null;
  result: ImportProgress | null;
}

export interface SiteState {
  readonly site: Site | null;
  readonly counts: Partial<Record<Kind, number>>;
  readonly revision: number;
  readonly drafts: Readonly<Record<(typeof BOARD_KINDS)[number], StoredDesign>>;
  readonly kept: Readonly<Record<(typeof BOARD_KINDS)[number], StoredDesign>>;
  readonly lastRun: RunFigures | null;
  readonly jobs: readonly Job[];
}

/** So many changes of a step of editing are made before the answer goes out; more are a job. */
const AT_ONCE = 1000;

/** A draft was changed elsewhere since the writer last saw it. */
export class DraftConflict extends Error {
  constructor(readonly current: StoredDesign) {
    super("This draft was changed in another window");
  }
}

/** What the routes call: the database, the worker that proves and the worker that writes. */
export class Backend {
  readonly proof: WorkerClient<ProofMethods>;
  private readonly jobsWorker: WorkerClient<JobMethods>;
  private readonly jobs = new Map<string, Job>();
  private readonly stops = new Map<string, AbortController>();

  constructor(
    readonly db: Db,
    path: string,
  ) {
    stopInterruptedRuns(db);
    stopInterruptedEdits(db);
    db.prepare("UPDATE imports SET status = 'stopped' WHERE status = 'running'").run();
    this.proof = new WorkerClient(
      join(process.cwd(), "dist", "proof-worker.mjs"),
      { path, nearWorker: join(process.cwd(), "dist", "near-worker.mjs") },
      { sharesProgress: true },
    );
    this.jobsWorker = new WorkerClient(join(process.cwd(), "dist", "jobs-worker.mjs"), { path });
  }

  /** Brings the drafts' proofs into memory before anybody asks for them. */
  async warm(): Promise<void> {
    if (!readSite(this.db)) return;
    try {
      await this.proof.call("board", { designs: this.drafts() });
      await this.jobsWorker.call("syncSearch", undefined);
    } catch {
      // Whoever asks next is told what is wrong.
    }
  }

  state(): SiteState {
    const designs = (state: "draft" | "kept") =>
      Object.fromEntries(BOARD_KINDS.map((kind) => [kind, readDesign(this.db, state, kind)])) as SiteState["drafts"];
    return {
      site: readSite(this.db),
      counts: countByKind(this.db),
      revision: revision(this.db),
      drafts: designs("draft"),
      kept: designs("kept"),
      lastRun: listRuns(this.db, 1)[0] ?? null,
      jobs: this.listJobs(),
    };
  }

  /** The drafts of the board's kinds, as they are stored. */
  drafts(): Designs {
    return Object.fromEntries(BOARD_KINDS.map((kind) => [kind, readDesign(this.db, "draft", kind).design]));
  }

  /** @throws {DraftConflict} when the stored draft is newer than the one that the writer last saw. */
  saveDraft(kind: Kind, design: KindDesign, seen: number): StoredDesign {
    const current = readDesign(this.db, "draft", kind);
    if (current.version > seen && JSON.stringify(current.design) !== JSON.stringify(design))
      throw new DraftConflict(current);
    return writeDesign(this.db, "draft", kind, design, new Date().toISOString());
  }

  /** Keeps a kind's draft: what the site is designed with from now on. */
  keepDraft(kind: Kind): StoredDesign {
    return writeDesign(this.db, "kept", kind, readDesign(this.db, "draft", kind).design, new Date().toISOString());
  }

  /** A kind's design by what it is called in a comparison: `draft`, `kept`, or the number of a named draft. */
  designNamed(kind: Kind, which: string): KindDesign {
    if (which === "draft" || which === "kept") return readDesign(this.db, which, kind).design;
    const named = readNamedDraft(this.db, Number(which));
    if (named?.kind !== kind) throw new Error("That named draft is no longer there; choose another one");
    return named.design;
  }

  namedDrafts(kind: Kind): NamedDraft[] {
    return listNamedDrafts(this.db, kind);
  }

  /** Puts a kind's draft aside under a name. */
  nameDraft(kind: Kind, name: string): NamedDraft {
    return putAside(this.db, kind, name, readDesign(this.db, "draft", kind).design, new Date().toISOString());
  }

  forgetNamedDraft(id: number): void {
    forgetNamedDraft(this.db, id);
  }

  /** Makes a kept or named design the draft; the one before is put aside first, unless it reads the same. */
  chooseDraft(kind: Kind, which: string): StoredDesign {
    const chosen = this.designNamed(kind, which);
    const present = readDesign(this.db, "draft", kind);
    if (JSON.stringify(chosen) === JSON.stringify(present.design)) return present;
    const now = new Date().toISOString();
    putAside(this.db, kind, "Draft before another was chosen", present.design, now);
    return writeDesign(this.db, "draft", kind, chosen, now);
  }

  linesFile(): string {
    return writeLinesFile(this.db);
  }

  reviewLinesFile(name: string, text: string): LinesFileReview {
    return reviewLinesFile(this.db, name, text);
  }

  adoptLinesFile(name: string, text: string, site: boolean): Kind[] {
    return adoptLinesFile(this.db, name, text, site, new Date().toISOString());
  }

  listJobs(): Job[] {
    return [...this.jobs.values()];
  }

  /** Freezes what the review takes in and begins to apply it. */
  async startRun(): Promise<number> {
    const run = await this.proof.call("freeze", { designs: this.drafts(), now: new Date().toISOString() });
    this.continueRun(run);
    return run;
  }

  /** Goes on with a run that is ready or was stopped. */
  continueRun(run: number): void {
    const figures = readRun(this.db, run);
    if (!figures) throw new Error(`There is no run ${run}`);
    if (figures.taken_back_by !== null) throw new Error(`Run ${run} was taken back; it does not go on`);
    if ([...this.jobs.values()].some((job) => job.run === run && job.status === "running")) return;
    const total = figures.waiting + figures.applied + figures.skipped;
    const label = figures.type === "apply" ? `Run ${run}` : `Taking back run ${figures.of_run}`;
    setRunStatus(this.db, run, "running", new Date().toISOString());
    this.start({ id: `run-${run}`, type: "run", run, label, total, done: total - figures.waiting }, (job, signal) =>
      this.jobsWorker
        .call("apply", { run }, { signal, progress: (value) => (job.done = (value as RunProgress).done) })
        .then(() => {
          if (readRun(this.db, run)?.status === "stopped") job.status = "stopped";
        }),
    );
  }

  takeBack(run: number): number {
    const back = createTakeBack(this.db, run, new Date().toISOString());
    this.continueRun(back);
    return back;
  }

  bringIn(token: string, name: string, mapping: Mapping): string {
    const id = `import-${token}`;
    this.start({ id, type: "import", run: null, label: name, total: null, done: 0 }, (job, signal) =>
      this.jobsWorker
        .call(
          "bringIn",
          { token, name, mapping },
          {
            signal,
            progress: (value) => {
              job.result = value as ImportProgress;
              job.done = job.result.rows;
            },
          },
        )
        .then((result) => {
          job.result = result;
          job.done = result.rows;
          job.status = result.status;
          forgetFile(token);
        }),
    );
    return id;
  }

  /** One page whole: its findings, what its texts are made from, and what runs did to it; `null` where there is none. */
  async itemSheet(kind: Kind, id: number) {
    const designs = this.drafts();
    const [sheet, row] = await Promise.all([
      this.proof.call("sheet", { designs, kind, id }),
      this.proof.call("item", { kind, design: designs[kind] ?? EMPTY_DESIGN, text: "title", id }),
    ]);
    return sheet && row ? { ...sheet, row, history: historyOfItem(this.db, id) } : null;
  }

  /** What an action would do to chosen pages. */
  planEdit(choice: Choice, action: EditAction) {
    return this.proof.call("planEdit", { designs: this.drafts(), choice, action });
  }

  /** Does an action to chosen pages, as one step that can be taken back: a small one at once, a large one as a job. */
  async makeEdit(choice: Choice, action: EditAction) {
    return this.madeStep(
      await this.proof.call("makeEdit", { designs: this.drafts(), choice, action, now: new Date().toISOString() }),
    );
  }

  /** Puts a rule for just the chosen pages at the top of their kind's draft; it begins with the line that the base has. */
  async ruleFor(choice: Choice): Promise<{ kind: Kind; rule: string }> {
    const { kind, ids } = await this.proof.call("idsOf", { designs: this.drafts(), choice });
    const { design } = readDesign(this.db, "draft", kind);
    const id = randomUUID();
    const name = ids.length === 1 ? "One chosen page" : `${ids.length.toLocaleString("en")} chosen pages`;
    const rule = {
      id,
      name,
      when: { field: "id", "is one of": ids },
      ...(design.base.title === undefined ? {} : { title: design.base.title }),
    };
    writeDesign(this.db, "draft", kind, withRule(design, rule), new Date().toISOString());
    return { kind, rule: id };
  }

  editSteps(): EditSteps {
    return editSteps(this.db);
  }

  /** Brings a step of editing to where its changes stand, or do not stand any more. */
  runEdit(id: number, goal: "set" | "undone"): EditSteps {
    const edit = readEdit(this.db, id);
    if (!edit) throw new Error("That step is no longer there");
    const job = `edit-${id}`;
    if (this.jobs.get(job)?.status === "running") throw new Error("That step is still under way; stop it first");
    setEdit(this.db, id, goal, "running");
    const { waiting, total, skipped, label } = readEdit(this.db, id)!;
    if (waiting <= AT_ONCE) applyEdit(this.db, id);
    else {
      this.start(
        {
          id: job,
          type: "edit",
          run: null,
          label: goal === "set" ? label : `Taking back: ${label}`,
          total: total - skipped,
          done: total - skipped - waiting,
        },
        (own, signal) =>
          this.jobsWorker
            .call("edit", { edit: id }, { signal, progress: (value) => (own.done = (value as EditProgress).done) })
            .then(() => {
              if (readEdit(this.db, id)?.status === "stopped") own.status = "stopped";
            }),
      );
    }
    return this.editSteps();
  }

  /** Gives pages their keywords, as one step that can be taken back. */
  async assignKeywords(pages: readonly Assignment[]) {
    return this.madeStep(await this.proof.call("assignKeywords", { pages, now: new Date().toISOString() }));
  }

  /** Gives every page the keyword that is suggested for it: of the list, of their own names, or both. */
  async assignSuggested(kind: Kind | "all", only: "list" | "name" | null) {
    return this.madeStep(await this.proof.call("assignSuggested", { kind, only, now: new Date().toISOString() }));
  }

  private madeStep<T extends { readonly edit: number | null }>(made: T): T & { readonly steps: EditSteps } {
    if (made.edit !== null) this.runEdit(made.edit, "set");
    return { ...made, steps: this.editSteps() };
  }

  async receiveKeywords(body: ReadableStream<Uint8Array>): Promise<KeywordsLook> {
    const token = await receiveFile(body);
    try {
      return await lookAtKeywords(token);
    } catch (error) {
      forgetFile(token);
      throw error;
    }
  }

  async bringKeywords(
    token: string,
    mapping: KeywordMapping,
    progress: (rows: unknown) => void,
  ): Promise<BroughtKeywords> {
    const brought = await this.jobsWorker.call("bringKeywords", { token, mapping }, { progress });
    forgetFile(token);
    return brought;
  }

  clearKeywordList(): number {
    return clearKeywordList(this.db);
  }

  /**
   * Stores the site's settings.
   *
   * @param seen the settings that the writer began with. @throws {Error} when they were changed elsewhere since.
   */
  saveSite(site: Site, seen: Site): void {
    const present = readSite(this.db);
    if (present && JSON.stringify(present) !== JSON.stringify(seen))
      throw new Error(
        "The settings were changed in another window. Reload the page to see them; what you typed stays here until then.",
      );
    writeSite(this.db, site);
    void this.warm();
  }

  views(): NamedView[] {
    return listViews(this.db);
  }

  putView(view: NamedView): NamedView[] {
    putView(this.db, view, new Date().toISOString());
    return this.views();
  }

  forgetView(name: string): NamedView[] {
    forgetView(this.db, name);
    return this.views();
  }

  /** Every run, the newest first. */
  runs(): RunFigures[] {
    return listRuns(this.db);
  }

  run(id: number): RunFigures {
    const run = readRun(this.db, id);
    if (!run) throw new Error(`There is no run ${id}`);
    return run;
  }

  /** A page of a run's changes: those behind a change's id. */
  runChanges(id: number, after: number): ChangeWithName[] {
    return changesAfter(this.db, id, after, 200);
  }

  async receive(body: ReadableStream<Uint8Array>, name: string): Promise<FirstLook> {
    const token = await receiveFile(body);
    try {
      return await firstLook(token, name);
    } catch (error) {
      forgetFile(token);
      throw error;
    }
  }

  refusedRows(id: number): ReadableStream<Uint8Array> {
    return textStream(refusedLines(this.db, id));
  }

  takeOut(what: Outgoing, format: OutFormat, run: number | null): ReadableStream<Uint8Array> {
    return textStream(outgoingLines(this.db, what, format, run));
  }

  /** The extra texts of every page that has some, as lines of a file. */
  takeOutExtras(format: OutFormat): ReadableStream<Uint8Array> {
    return textStream(
      extraLines(format, (kind, from, count) =>
        this.proof.call("extraRows", { designs: this.drafts(), kind, from, count }),
      ),
    );
  }

  stopJob(id: string): void {
    this.stops.get(id)?.abort();
  }

  private start(
    begin: Pick<Job, "id" | "type" | "run" | "label" | "total" | "done">,
    work: (job: Job, signal: AbortSignal) => Promise<unknown>,
  ): void {
    const job: Job = { ...begin, status: "running", message: null, result: null };
    const stop = new AbortController();
    this.jobs.set(job.id, job);
    this.stops.set(job.id, stop);
    void work(job, stop.signal)
      .then(() => {
        if (job.status === "running") job.status = "done";
      })
      .catch((error: unknown) => {
        job.status = error instanceof CancelledCall ? "stopped" : "failed";
        job.message = error instanceof Error ? error.message : String(error);
      })
      .finally(() => this.stops.delete(job.id));
  }

  async close(): Promise<void> {
    await Promise.all([this.proof.close(), this.jobsWorker.close()]);
    this.db.close();
  }
}

/** Makes the process's backend; routes find it by `backend-handle.ts`. */
export function startBackend(path: string): Backend {
  const made = new Backend(openStore(path), path);
  (globalThis as { nineLinesBackend?: Backend }).nineLinesBackend = made;
  return made;
}
