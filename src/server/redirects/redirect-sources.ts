import { normalAddress } from "../../core/addresses/path-form";
import { folderOf } from "../../core/addresses/addresses";
import { iterateRedirects, redirectsVersion } from "../../store/redirects";
import { type Workspace } from "../workspace/workspace";

/** The paths that lead on, by the folder that they are in, with where they lead: as they were given, in normal form. */
export type RedirectSources = ReadonlyMap<string, ReadonlyMap<string, string>>;

/** Keeps the paths that lead on at hand, for what is asked at each keystroke; read once for each state of redirects and pages. */
export class RedirectSourcesOf {
  private held: { readonly stamp: string; readonly sources: RedirectSources } | null = null;

  constructor(private readonly workspace: Workspace) {}

  sources(): RedirectSources {
    const { db, moment } = this.workspace;
    // Runs write redirects with the pages that they move.
    const stamp = `${moment.revision} ${redirectsVersion(db)}`;
    if (this.held?.stamp !== stamp) this.held = { stamp, sources: this.read() };
    return this.held.sources;
  }

  private read(): RedirectSources {
    const folders = new Map<string, Map<string, string>>();
    for (const { from, to, prefix, retiredAt } of iterateRedirects(this.workspace.db)) {
      // A redirect of a folder leaves pages below it alone anyway.
      if (prefix || retiredAt !== null) continue;
      const path = normalAddress(from);
      const folder = folderOf(path);
      const known = folders.get(folder);
      if (known) known.set(path, to);
      else folders.set(folder, new Map([[path, to]]));
    }
    return folders;
  }
}
