import { Later } from "../shell/later";

/** What measures and proves texts in the browser. It is large, with fonts' tables and languages' stems, and nothing needs it before pages are there. */
export const PROVER = new Later(() => import("./prover-parts"));

export type Prover = typeof import("./prover-parts");
