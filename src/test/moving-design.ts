import { baseDesign, type KindDesign, type Lines } from "../core/design/design";

/** A design of base lines whose slug line may move every page. */
export function movingDesign(base: Lines): KindDesign {
  return { ...baseDesign(base), moves: "all" };
}
