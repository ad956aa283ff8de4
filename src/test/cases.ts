import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";

/** The rows of case files of the contracts: from the folder of contracts beside the project, or from the project's own copy. */
export function readCases<T>(...names: readonly string[]): T[] {
  return names.flatMap(readFile<T>);
}

function readFile<T>(name: string): T[] {
  const places = [join(process.cwd(), "../shared/cases", name), join(process.cwd(), "src/test/cases", name)];
  const file = places.find((place) => existsSync(place));
  if (!file) throw new Error(`No case file ${name} in ${places.join(" or ")}`);
  return readFileSync(file, "utf8")
    .split("\n")
    .filter(Boolean)
    .map((line) => JSON.parse(line) as T);
}
