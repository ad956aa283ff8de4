import { type KindDesign } from "./design";
import { type Kind } from "./kinds";

/** The designs of a site's kinds. */
export type Designs = Readonly<Record<Kind, KindDesign>>;
