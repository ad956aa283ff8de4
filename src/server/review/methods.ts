import { CHANGE_GROUPS, type ChangeGroup, LEFT_OUT_AT_FIRST, NEVER_APPLIED } from "../../core/plan/groups";
import { isOfSingleChanges, type ReviewFilter, type ReviewOrder } from "../../core/plan/review-filter";
import {
  chooseChange,
  chooseFollowing,
  chooseGroup,
  chooseStretches,
  type ChangeScope,
  type ChoiceAct,
  clearChoices,
  keepChoices,
  leaveAllOut,
  restoreChoices,
} from "../../store/review-choices";
import { runOfClick } from "../../store/runs";
import { type Call } from "../threads/call";
import { watching } from "../workspace/watching";
import { type Workspace } from "../workspace/workspace";
import { freeze } from "./freeze";
import { type MovesFilter } from "./moves-view";
import { type Review } from "./review";

const LEFT_OUT_TOGETHER = CHANGE_GROUPS.filter((group) => !NEVER_APPLIED.has(group));
/** What a person has to look at is taken in by its own group's tick alone. */
const TAKEN_IN_TOGETHER = LEFT_OUT_TOGETHER.filter((group) => !LEFT_OUT_AT_FIRST.has(group));

/** What takes what a filter leaves of groups in, or leaves it out, when it is called: whole groups, texts of kinds, or single changes. */
function chooserOf(
  workspace: Workspace,
  review: Review,
  groups: readonly ChangeGroup[],
  { filter, included }: { filter: ReviewFilter; included: boolean },
): () => void {
  const { db } = workspace;
  if (isOfSingleChanges(filter)) {
    const changes = workspace.at(() => review.marksOf(workspace.drafts(), groups, filter));
    return () => {
      for (const { scope, mark } of changes) chooseChange(db, scope, mark, included);
    };
  }
  const { stretches, isMember } = workspace.at(() => review.stretchesOf(workspace.drafts(), groups, filter));
  if (filter.kind !== null || filter.text !== null) return () => chooseStretches(db, stretches, included, isMember);
  return () => {
    for (const group of groups) chooseGroup(db, group, included, isMember);
  };
}

/** What a run is asked for with. */
export interface RunAsked {
  /** That of the review that was looked at. */
  readonly goingOut: string;
  readonly name: string;
  readonly click: string;
  readonly now: string;
}

/** What the worker answers for the review. */
export const reviewMethods = (workspace: Workspace, review: Review) => {
  const summary = (filter: ReviewFilter) => workspace.at(() => review.summary(workspace.drafts(), filter));
  /** A word on many changes at once, which can be taken back. */
  const chosenTogether = (act: ChoiceAct, filter: ReviewFilter, choose: () => void) => {
    workspace.db
      .transaction(() => {
        keepChoices(workspace.db, act);
        choose();
      })
      .immediate();
    return summary(filter);
  };
  return {
    asking: {
      reviewSummary: ({ filter }: { filter: ReviewFilter }, call: Call) =>
        review.summary(workspace.drafts(), filter, watching(call)),
      reviewFacets: (_: object, call: Call) => review.facetsOf(workspace.drafts(), watching(call)),
      movesList: ({ from, count, ...filter }: MovesFilter & { from: number; count: number }, call: Call) =>
        review.movesView(workspace.drafts(), watching(call)).list(filter, { from, count }),
      movesFolders: ({ within }: { within: string }, call: Call) => {
        const view = review.movesView(workspace.drafts(), watching(call));
        return { figures: view.figures(), ...view.folders(within) };
      },
      movesAlong: (asked: { what: "links" | "redirects"; from: number; count: number }, call: Call) =>
        review.movesAlong(workspace.drafts(), asked, watching(call)),
      reviewList: (
        {
          query,
        }: { query: { group: ChangeGroup; filter: ReviewFilter; order: ReviewOrder; from: number; count: number } },
        call: Call,
      ) => review.list(workspace.drafts(), query, watching(call)),
    },
    writing: {
      chooseGroup: ({ group, filter, included }: { group: ChangeGroup; filter: ReviewFilter; included: boolean }) => {
        const choose = chooserOf(workspace, review, [group], { filter, included });
        return chosenTogether("group", filter, choose);
      },
      /**
       * All that a filter leaves; with `only` all others are left out. Taken in are the groups that are so at first: what gets worse, stays too wide or
       * moves is not.
       */
      chooseShown: ({ filter, included, only }: { filter: ReviewFilter; included: boolean; only: boolean }) => {
        const groups = included ? TAKEN_IN_TOGETHER : LEFT_OUT_TOGETHER;
        const choose = chooserOf(workspace, review, groups, { filter, included });
        return chosenTogether(only ? "only" : included ? "include" : "exclude", filter, () => {
          if (only) leaveAllOut(workspace.db);
          choose();
        });
      },
      /** Whether links that lead to moving pages are rewritten with them. */
      followLinks: ({ follows, filter }: { follows: boolean; filter: ReviewFilter }) => {
        chooseFollowing(workspace.db, follows);
        return summary(filter);
      },
      /** All is taken in or left out as at first. */
      forgetChoices: ({ filter }: { filter: ReviewFilter }) =>
        chosenTogether("reset", filter, () => clearChoices(workspace.db)),
      /** Back to what was taken in before the last word on many changes. */
      restoreChoices: ({ filter }: { filter: ReviewFilter }) => {
        restoreChoices(workspace.db);
        return summary(filter);
      },
      chooseChange: ({ included, filter, ...scope }: ChangeScope & { filter: ReviewFilter; included: boolean }) => {
        const mark = workspace.at(() => review.markOf(workspace.drafts(), scope));
        chooseChange(workspace.db, scope, mark, included);
        return summary(filter);
      },
      /** Writes a run down of what the review that was looked at takes in. The same click makes one run only. */
      freeze: ({ goingOut, name, click, now }: RunAsked) => {
        const made = runOfClick(workspace.db, click);
        if (made !== null) return made;
        const { going, designs, moment } = workspace.at(() => ({
          going: review.going(workspace.drafts(), goingOut),
          designs: workspace.drafts(),
          moment: workspace.moment.stamp,
        }));
        return freeze(workspace.db, going, designs, { name, click, now }, (write) => workspace.commit(moment, write));
      },
    },
  };
};
