import { type Target } from "../core/design/import-targets";

/** Parts categories of a path where spaces stand around it, or where no word has it: a name may hold a slash. */
const IS_PATH = /\S\s*[›»>]\s*\S|\S \| \S/;
/** One of so many categories is a path where they are paths. */
const SHARE_OF_PATHS = 0.02;

/**
 * What the names of columns told, corrected by what stands in them: a column of categories whose values are paths
 * (“Rope › Twine”) has the way to each, unless another column has.
 *
 * @param rows the first of the file.
 */
export function correctedByValues(targets: readonly Target[], rows: readonly (readonly string[])[]): readonly Target[] {
  if (targets.includes("category.path")) return targets;
  return targets.map((target, i) => {
    if (target !== "category") return target;
    const filled = rows.map((cells) => cells[i] ?? "").filter((cell) => cell.trim() !== "");
    const paths = filled.filter((cell) => IS_PATH.test(cell)).length;
    return paths > 0 && paths >= filled.length * SHARE_OF_PATHS ? "category.path" : target;
  });
}
