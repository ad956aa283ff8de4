"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import type { Kind } from "../../core/design/kinds";
import type { EditSteps } from "../../store/edits";
import type { StoredJob } from "../../store/jobs";
import type { ItemQuery, Ranges } from "../../core/items/query";
import type { EditAction, EditPlan } from "../../server/edits/plan-edit";
import type { CallInput } from "../../server/api/contract";
import type { MadeSteps } from "../../server/edits/edit-work";
import { call } from "./api";
import { counted } from "./format";
import { InTurn } from "./in-turn";
import { isOpenJob, useJobs, watchJobs } from "./jobs";
import { useSite } from "./site-context";
import { untilSent } from "./unsent";

/** Pages that something is done to. */
export type Choice =
  | { readonly query: ItemQuery; readonly ranges: Ranges; readonly order: string }
  | { readonly kind: Kind; readonly id: number };

/** What an action would do: figures, and how the first changes read. */
export type PlannedEdit = Omit<EditPlan, "changes"> & { readonly count: number };

/** What the server says of a step that was made. */
export interface MadeEdit extends MadeSteps {
  readonly edit: number | null;
  readonly label: string;
  readonly count: number;
  readonly refused?: EditPlan["refused"];
}

const WAYS = { undo: { goal: "undone", done: "Undone" }, redo: { goal: "set", done: "Redone" } } as const;

const failed = (error: unknown) => void toast.error(error instanceof Error ? error.message : String(error));

export function planEdit(choice: Choice, action: EditAction, signal: AbortSignal): Promise<PlannedEdit> {
  return call("edits.plan", { choice, action } as CallInput<"edits.plan">, { signal });
}

/**
 * Editing by hand: does actions, takes them back and does them again, all as steps that the server keeps. They go out one after another: what is
 * taken back is what was done last, also where that is still on its way.
 */
export function useEdits() {
  const { state, refresh } = useSite();
  const jobs = useJobs();
  const [turns] = useState(() => new InTurn());
  const inTurn = useCallback(<T>(work: () => Promise<T>) => untilSent(turns.do(work)), [turns]);
  const { steps, latest, tell } = useSteps(`${state.revision} ${jobs.some(isOpenEdit)}`);
  const running = jobs.find(isOpenEdit) ?? null;

  const settle = useCallback(
    async ({ steps: next, waitsFor }: MadeSteps) => {
      tell(next);
      if (waitsFor !== null) toast(`Waiting for: ${waitsFor}`);
      watchJobs();
      // The step is made, whatever becomes of looking at what it did.
      await refresh().catch(() => {});
    },
    [tell, refresh],
  );
  /** Brings a step to where it should be; says whether that could be done. */
  const run = useCallback(
    async (id: number, goal: "set" | "undone") => {
      try {
        await settle(await call("edits.run", { id, goal }));
        return true;
      } catch (error) {
        failed(error);
        return false;
      }
    },
    [settle],
  );
  const go = useCallback((id: number, goal: "set" | "undone") => inTurn(() => run(id, goal)), [inTurn, run]);
  const back = useCallback(
    (way: keyof typeof WAYS) =>
      inTurn(async () => {
        const step = latest()[way];
        const { goal, done } = WAYS[way];
        if (!step) toast(`Nothing to ${way}`);
        else if (await run(step.id, goal)) toast(`${done}: ${step.label}`);
      }),
    [inTurn, latest, run],
  );
  const undo = useCallback(() => back("undo"), [back]);
  const redo = useCallback(() => back("redo"), [back]);

  /** Has the server make a step, and offers the way back from it; says whether it could be done. */
  const taken = useCallback(
    async (making: () => Promise<MadeEdit>): Promise<boolean> => {
      try {
        const made = await making();
        await settle(made);
        const first = made.refused?.[0];
        if (made.edit === null) {
          if (first) toast.error(`${first.reason}.`);
          else toast("Nothing needed changing");
          return first === undefined;
        }
        const edit = made.edit;
        toast(made.label, {
          ...(first ? { description: `${counted(first.count, "page", "pages")} left out: ${first.reason}` } : {}),
          action: { label: "Undo", onClick: () => void go(edit, "undone") },
        });
        return true;
      } catch (error) {
        failed(error);
        return false;
      }
    },
    [settle, go],
  );
  const take = useCallback((making: () => Promise<MadeEdit>) => inTurn(() => taken(making)), [inTurn, taken]);
  /** Does an action to pages; says whether it could be done. */
  const make = useCallback(
    (choice: Choice, action: EditAction) =>
      take(() => call("edits.make", { choice, action } as CallInput<"edits.make">)),
    [take],
  );
  return { steps, running, make, take, undo, redo, go };
}

const isOpenEdit = (job: StoredJob) => job.type === "edit" && isOpenJob(job);

/**
 * The steps that can be taken back and done again: asked for when what they rest on is another, and told with each step. An answer that was
 * asked for before does not take the place of what is known since.
 */
function useSteps(stamp: string) {
  const [steps, setSteps] = useState<EditSteps>({ undo: null, redo: null, stopped: null });
  const known = useRef(steps);
  const turn = useRef(0);
  const tell = useCallback((next: EditSteps) => {
    turn.current++;
    known.current = next;
    setSteps(next);
  }, []);
  useEffect(() => {
    const own = ++turn.current;
    call("edits.steps", {})
      .then((next) => own === turn.current && tell(next))
      .catch(() => {});
  }, [stamp, tell]);
  const latest = useCallback(() => known.current, []);
  return { steps, latest, tell };
}

export type Edits = ReturnType<typeof useEdits>;
