import { type Side } from "../../core/checks/findings";
import { type ExtraName, type Kind, type TextName } from "../../core/design/kinds";

/** How far a call is, where it takes long: what is done, and how much of it from 0 to 1. */
export interface WorkProgress {
  readonly step: "loading" | "matching" | "proving" | "checking" | "weighing" | "comparing";
  readonly kind: Kind;
  /** Which text, where one is proved or checked. */
  readonly text: TextName | ExtraName | null;
  /** The site's texts, or the drafts'. */
  readonly side: Side | null;
  readonly share: number;
}

/** How a call is watched. */
export interface WorkWatch {
  readonly cancelled?: (() => boolean) | undefined;
  readonly progress?: ((progress: WorkProgress) => void) | undefined;
}
