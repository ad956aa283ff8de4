"use client";
import { useCallback, useEffect, useState } from "react";
import { toast } from "sonner";
import type { Kind } from "../../core/design/kinds";
import type { EditSteps } from "../../store/edits";
import type { ItemQuery, Ranges } from "../../core/items/query";
import type { EditAction, EditPlan } from "../../server/edits/plan-edit";
import type { CallInput } from "../../server/api/contract";
import type { MadeSteps } from "../../server/edits/edit-work";
import { call } from "./api";
import { counted } from "./format";
import { isOpenJob, useJobs, watchJobs } from "./jobs";
import { useSite } from "./site-context";

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

const failed = (error: unknown) => void toast.error(error instanceof Error ? error.message : String(error));

export function planEdit(choice: Choice, action: EditAction, signal: AbortSignal): Promise<PlannedEdit> {
  return call("edits.plan", { choice, action } as CallInput<"edits.plan">, { signal });
}

/** Editing by hand: does actions, takes them back and does them again, all as steps that the server keeps. */
export function useEdits() {
  const { state, refresh } = useSite();
  const jobs = useJobs();
  const [steps, setSteps] = useState<EditSteps>({ undo: null, redo: null, stopped: null });
  const running = jobs.find((job) => job.type === "edit" && isOpenJob(job)) ?? null;
  useEffect(() => {
    call("edits.steps", {})
      .then(setSteps)
      .catch(() => {});
  }, [state.revision, running === null]); // eslint-disable-line react-hooks/exhaustive-deps

  const settle = useCallback(
    async ({ steps: next, waitsFor }: MadeSteps) => {
      setSteps(next);
      if (waitsFor !== null) toast(`Waiting for: ${waitsFor}`);
      watchJobs();
      await refresh();
    },
    [refresh],
  );
  const go = useCallback(
    async (id: number, goal: "set" | "undone") => {
      try {
        await settle(await call("edits.run", { id, goal }));
      } catch (error) {
        failed(error);
      }
    },
    [settle],
  );
  const undo = useCallback(async () => {
    const step = steps.undo;
    if (!step) return void toast("Nothing to undo");
    await go(step.id, "undone");
    toast(`Undone: ${step.label}`);
  }, [steps.undo, go]);
  const redo = useCallback(async () => {
    const step = steps.redo;
    if (!step) return void toast("Nothing to redo");
    await go(step.id, "set");
    toast(`Redone: ${step.label}`);
  }, [steps.redo, go]);

  /** Takes in a step that the server made, with the way back from it; says whether it could be done. */
  const take = useCallback(
    async (making: Promise<MadeEdit>): Promise<boolean> => {
      try {
        const made = await making;
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
  /** Does an action to pages; says whether it could be done. */
  const make = useCallback(
    (choice: Choice, action: EditAction) => take(call("edits.make", { choice, action } as CallInput<"edits.make">)),
    [take],
  );
  return { steps, running, make, take, undo, redo, go };
}

export type Edits = ReturnType<typeof useEdits>;
