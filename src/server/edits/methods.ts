import { createEdit } from "../../store/edits";
import { type Choice, chosenPages } from "../items/chosen-pages";
import { type ItemsList } from "../items/items-list";
import { type Workspace } from "../workspace/workspace";
import { type EditAction, planEdit } from "./plan-edit";

type Edit = { readonly choice: Choice; readonly action: EditAction };

/** What the worker answers for editing by hand: what an action would do, and the step that it makes. */
export const editMethods = (workspace: Workspace, list: ItemsList) => {
  const planned = ({ choice, action }: Edit) => {
    const plan = planEdit(workspace.site(), chosenPages(list, workspace.drafts(), choice), action);
    return { ...plan, count: plan.changes.length };
  };
  return {
    planEdit: (edit: Edit) => ({ ...planned(edit), changes: [] }),
    /** Works a step out and writes it down; it is made by a job. */
    makeEdit: ({ now, ...edit }: Edit & { now: string }) => {
      const { plan, written } = workspace.settle(
        () => planned(edit),
        ({ label, changes }) => (changes.length === 0 ? null : createEdit(workspace.db, label, changes, now)),
      );
      const { label, count, unchanged, refused } = plan;
      return { edit: written, label, count, unchanged, refused };
    },
  };
};
