import { type Designs } from "../core/design/designs";
import { type Db } from "../store/open";
import { freeze } from "../server/review/freeze";
import { type Review } from "../server/review/review";

/** Writes down what a review takes in, as it is now. */
export function runOfReview(db: Db, review: Review, designs: Designs, now = "2026-11-25T00:00:00.000Z"): number {
  const going = review.going(designs, review.summary(designs).goingOut);
  return freeze(db, going, designs, { name: "", click: null, now }, (write) => db.transaction(write).immediate());
}
