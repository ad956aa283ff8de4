import { workerData } from "node:worker_threads";
import { type KindDesign } from "../core/design/design";
import { type Kind, type TextName } from "../core/design/kinds";
import { type ChangeGroup } from "../core/plan/groups";
import { openStore } from "../store/open";
import { chooseChange, chooseGroup, changeScope } from "../store/review-choices";
import { ProofEngine, type RowQuery } from "./proof-engine";
import { type Designs, Review } from "./review";
import { type Call, CancelledCall, serveWorker } from "./rpc";

const { path, stop } = workerData as { path: string; stop: Int32Array };
const db = openStore(path);
const engine = new ProofEngine(db);
const review = new Review(db, engine);

function guarded<T>(call: Call, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (call.cancelled()) throw new CancelledCall();
    throw error;
  }
}

/** What the proof worker answers. */
export const proofMethods = {
  prove: ({ kind, design }: { kind: Kind; design: KindDesign }, call: Call) => guarded(call, () => engine.prove(kind, design, call.cancelled, call.progress)),
  rows: ({ kind, design, query }: { kind: Kind; design: KindDesign; query: RowQuery }, call: Call) => guarded(call, () => engine.rows(kind, design, query, call.cancelled)),
  bench: ({ kind, design, query }: { kind: Kind; design: KindDesign; query: RowQuery }, call: Call) =>
    guarded(call, () => ({ proved: engine.prove(kind, design, call.cancelled, call.progress), ...engine.rows(kind, design, query, call.cancelled) })),
  board: ({ designs }: { designs: Designs }, call: Call) =>
    guarded(call, () => engine.boardKinds().map((kind) => ({ ...engine.prove(kind, designs[kind] ?? { base: {} }, call.cancelled, call.progress), examples: engine.examples(kind, designs[kind] ?? { base: {} }) }))),
  item: ({ kind, design, text, id }: { kind: Kind; design: KindDesign; text: TextName; id: number }) => engine.item(kind, design, text, id),
  fields: ({ kind }: { kind: Kind }) => engine.fields(kind),
  reviewSummary: ({ designs }: { designs: Designs }) => review.summary(designs),
  reviewList: ({ designs, query }: { designs: Designs; query: { group: ChangeGroup; from: number; count: number } }) => review.list(designs, query),
  chooseGroup: ({ designs, group, included }: { designs: Designs; group: ChangeGroup; included: boolean }) => {
    chooseGroup(db, group, included, review.scopes(designs, group));
    return review.summary(designs);
  },
  chooseChange: ({ designs, id, text, included }: { designs: Designs; id: number; text: TextName; included: boolean }) => {
    chooseChange(db, changeScope(id, text), included);
    return review.summary(designs);
  },
  freeze: ({ designs, now }: { designs: Designs; now: string }) => review.freeze(designs, now),
};

export type ProofMethods = typeof proofMethods;

serveWorker(proofMethods, stop);
