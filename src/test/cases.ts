import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";

/** The rows of a case file of the contracts: from the project's own copy, or from the folder of contracts beside the project. */
export function readCases<T>(name: string): T[] {
  const places = [join(process.cwd(), "../shared/cases", name), join(process.cwd(), "src/test/cases", name)];
  const file = places.find((place) => existsSync(place));
  if (!file) throw new Error(`No case file ${name} in ${places.join(" or ")}`);
  return readFileSync(file, "utf8")
    .split("\n")
    .filter(Boolean)
    .map((line) => JSON.parse(line) as T);
}
