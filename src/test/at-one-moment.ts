import { type Workspace } from "../server/workspace/workspace";

/** An object whose methods each look at one moment of a site, as the proof worker has them: settings and drafts are read once a call. */
export function atOneMoment<T extends object>(workspace: Workspace, of: T): T {
  return new Proxy(of, {
    get(target, name) {
      const own: unknown = Reflect.get(target, name, target);
      if (typeof own !== "function") return own;
      return (...args: unknown[]) => workspace.at(() => (own as (...args: unknown[]) => unknown).apply(target, args));
    },
  });
}
