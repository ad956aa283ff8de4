import { type ChangeGroup } from "../../core/plan/groups";
import { chooseChange, chooseGroup, type ChangeScope } from "../../store/review-choices";
import { runOfClick } from "../../store/runs";
import { type Call } from "../threads/call";
import { watching } from "../workspace/watching";
import { type Workspace } from "../workspace/workspace";
import { freeze } from "./freeze";
import { type Review } from "./review";

/** What a run is asked for with. */
export interface RunAsked {
  /** That of the review that was looked at. */
  readonly stamp: string;
  readonly name: string;
  readonly click: string;
  readonly now: string;
}

/** What the worker answers for the review. */
export const reviewMethods = (workspace: Workspace, review: Review) => {
  const summary = () => workspace.at(() => review.summary(workspace.drafts()));
  return {
    asking: {
      reviewSummary: (_: undefined, call: Call) => review.summary(workspace.drafts(), watching(call)),
      reviewList: ({ query }: { query: { group: ChangeGroup; from: number; count: number } }) =>
        review.list(workspace.drafts(), query),
    },
    writing: {
      chooseGroup: ({ group, included }: { group: ChangeGroup; included: boolean }) => {
        const isMember = workspace.at(() => review.isOfGroup(workspace.drafts(), group));
        chooseGroup(workspace.db, group, included, isMember);
        return summary();
      },
      chooseChange: ({ included, ...scope }: ChangeScope & { included: boolean }) => {
        const mark = workspace.at(() => review.markOf(workspace.drafts(), scope));
        chooseChange(workspace.db, scope, mark, included);
        return summary();
      },
      /** Writes a run down of what the review that was looked at takes in. The same click makes one run only. */
      freeze: ({ stamp, name, click, now }: RunAsked) => {
        const made = runOfClick(workspace.db, click);
        if (made !== null) return made;
        const { going, designs, moment } = workspace.at(() => ({
          going: review.going(workspace.drafts(), stamp),
          designs: workspace.drafts(),
          moment: workspace.moment.stamp,
        }));
        return freeze(workspace.db, going, designs, { name, click, now }, (write) => workspace.commit(moment, write));
      },
    },
  };
};
