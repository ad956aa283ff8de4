import { type Kind } from "../../core/design/kinds";
import { type ItemInput } from "../../store/items";
import { ownText } from "./own-text";

/** Finds rows of one file that are about a page that an earlier row was about, or that stand at its address. */
export class TwiceFinder {
  /** By kind. */
  private readonly lineOfKey = new Map<Kind, Map<string, number>>();
  private readonly lineOfPath = new Map<string, number>();

  /** Why a row cannot be taken, in words with both lines; `null` where it can, and then it is remembered. */
  reasonToRefuse({ key, kind, path }: Pick<ItemInput, "key" | "kind" | "path">, line: number): string | null {
    const keys = this.lineOfKey.get(kind) ?? new Map<string, number>();
    const sameKey = key === null ? undefined : keys.get(key);
    if (sameKey !== undefined) return `Line ${sameKey} has the id “${key}” already; an id is one page's`;
    const samePath = path === null ? undefined : this.lineOfPath.get(path);
    if (samePath !== undefined)
      return `Line ${samePath} has the address ${path} already; two pages cannot be at one address`;
    if (key !== null) this.lineOfKey.set(kind, keys.set(ownText(key), line));
    if (path !== null) this.lineOfPath.set(ownText(path), line);
    return null;
  }
}
