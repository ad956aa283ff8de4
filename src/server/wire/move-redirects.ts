import { filled } from "../../core/connection/fill";
import { type Connection } from "../../core/connection/schema";
import { expanded } from "../../core/connection/uri";
import { type Db } from "../../store/open";
import { type Applier, type PageOutcome } from "../runs/applier";
import { type SiteClient } from "./site-client";
import { WireError } from "./wire-error";

type Moving = Pick<PageOutcome, "item" | "move">;

/** Puts redirects on the site before the moves that they belong to, and takes them away where the page stays. */
export class MoveRedirects {
  private readonly standing;
  /** Old addresses of redirects that were put there, by item. */
  private readonly made = new Map<number, string[]>();

  constructor(
    db: Db,
    private readonly client: SiteClient,
    private readonly connection: Connection,
    private readonly applier: Applier,
  ) {
    this.standing = db
      .prepare("SELECT 1 FROM redirects WHERE from_path = ? AND retired_by IS NULL AND retired_at IS NULL LIMIT 1")
      .pluck();
  }

  /** Puts those of a move there. @returns why it cannot be made, in words; `null` where all are there. */
  async make({ item, move }: Moving): Promise<string | null> {
    const make = this.connection.redirects?.make;
    if (!make || !move || move.from === null || move.to === null) return null;
    const made: string[] = [];
    this.made.set(item, made);
    for (const owed of this.applier.redirectsOf({ item, from: move.from, to: move.to })) {
      const url = expanded(this.connection.base, make.url, { from: owed.from, to: owed.to });
      const body = filled(make.body, new Map<string, string | number>(Object.entries(owed))) ?? {};
      try {
        await this.client.persist(() => this.client.ask({ method: make.method, url, body }));
      } catch (error) {
        if (!isNo(error)) throw error;
        await this.takeBack({ item, move });
        return `The redirect from ${owed.from} was refused: ${error.message}`;
      }
      made.push(owed.from);
    }
    return null;
  }

  /** The page stays where it was: what was put there for it goes. */
  async takeBack({ item }: Moving): Promise<void> {
    for (const from of this.made.get(item) ?? []) await this.remove(from);
    this.made.delete(item);
  }

  /** A page is where a redirect led away from: that one ends. Call it before the move is written down here. */
  async removeAt({ item, move }: Moving): Promise<void> {
    this.made.delete(item);
    if (move && move.to !== null && this.standing.get(move.to) !== undefined) await this.remove(move.to);
  }

  private async remove(from: string): Promise<void> {
    const remove = this.connection.redirects?.remove;
    if (!remove) return;
    const url = expanded(this.connection.base, remove.url, { from });
    try {
      await this.client.persist(() => this.client.ask({ method: remove.method, url }));
    } catch (error) {
      // One that is not there any more, or may not be removed, does no harm where a page stands.
      if (!isNo(error)) throw error;
    }
  }
}

function isNo(error: unknown): error is WireError {
  return error instanceof WireError && ["refused", "missing", "changed"].includes(error.trouble);
}
