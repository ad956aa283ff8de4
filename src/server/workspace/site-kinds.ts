import { type Site } from "../../core/design/design";
import { type Kind } from "../../core/design/kinds";
import { type Db } from "../../store/open";
import { countOfKind, touchedSince } from "../../store/items";
import { type KindData, loadKind, type RefreshedKind } from "./kind-data";
import { KindRules } from "./kind-rules";
import { type LineGuard } from "./line-guard";
import { type LiveAhead } from "./live-ahead";
import { type Moment } from "./moment";
import { SiteTrees } from "./kind-tree";
import { settingsUsed } from "./settings-used";
import { type WorkWatch } from "./watch";

/** A kind's items in memory with its rules over them. */
export interface LoadedKind {
  readonly data: KindData;
  readonly rules: KindRules;
}

interface Held extends LoadedKind {
  /** The settings that the items were loaded with. */
  readonly settings: string;
  /** The tree of categories that the items were placed in. */
  readonly tree: string | null;
  /** The revision up to which changes were taken in. */
  readonly seen: number;
}

/** Told when a kind's items are other ones: with what changed of them, or `null` where they were loaded anew. */
export type KindListener = (kind: Kind, loaded: LoadedKind, changed: RefreshedKind | null) => void;

/**
 * The kinds' items in memory, brought up to the moment that is looked at: loaded once, then only what changed is taken in.
 * What was given out before stays as it was.
 */
export class SiteKinds {
  private readonly held = new Map<Kind, Held>();
  private readonly trees: SiteTrees;

  /** @param ahead begins with what the site has of a kind's texts, while the kind is being loaded. */
  constructor(
    private readonly db: Db,
    private readonly guard: LineGuard,
    private readonly listener: KindListener,
    private readonly ahead: LiveAhead | null,
  ) {
    this.trees = new SiteTrees(db);
  }

  /** A kind's items as they are at the moment. */
  at({ site, revision }: Moment, kind: Kind, watch: WorkWatch = {}): LoadedKind {
    const held = this.held.get(kind);
    const settings = settingsUsed.items(site, kind);
    if (held?.settings === settings) {
      if (held.seen === revision) return held;
      const isPlaced = held.tree === (this.trees.of(site, kind)?.stamp ?? null);
      const refreshed = isPlaced ? this.refresh(kind, held, revision) : null;
      if (refreshed) return refreshed;
    }
    return this.load(kind, { site, revision }, settings, watch);
  }

  private load(kind: Kind, moment: { site: Site; revision: number }, settings: string, watch: WorkWatch): LoadedKind {
    this.ahead?.begin(kind, moment, countOfKind(this.db, kind));
    const tree = this.trees.of(moment.site, kind);
    const data = loadKind(this.db, kind, { ...moment, tree }, (share) => {
      watch.progress?.({ step: "loading", kind, text: null, side: null, share });
    });
    const loaded: Held = {
      data,
      rules: new KindRules(kind, data.items, this.guard),
      settings,
      tree: tree?.stamp ?? null,
      seen: moment.revision,
    };
    this.held.set(kind, loaded);
    this.listener(kind, loaded, null);
    return loaded;
  }

  /** Takes in what changed of a kind's items since; `null` where they have to be loaded anew. */
  private refresh(kind: Kind, held: Held, revision: number): LoadedKind | null {
    const touched = touchedSince(this.db, kind, held.seen, held.data.ids.length);
    if (touched?.length === 0) {
      const same = { ...held, seen: revision };
      this.held.set(kind, same);
      return same;
    }
    const changed = touched && held.data.refreshed(touched, revision);
    if (!changed) return null;
    const { data, fields } = changed;
    const next = { ...held, data, rules: held.rules.over(data.items, fields), seen: revision };
    this.held.set(kind, next);
    this.listener(kind, next, changed);
    return next;
  }
}
