import { linksRead } from "../../store/links";
import { log } from "../log";
import { type Db } from "../../store/open";

/** What of an opened site is needed to read its links. */
interface ReadSite {
  readonly db: Db;
  readonly writer: { call(name: "readLinks", params: undefined): Promise<number> };
  readonly jobs: { open(): readonly unknown[] };
  hold(): () => void;
}

/** Reads links of bodies in the thread that writes, a few at a time, whenever nothing else writes. */
export class LinkReading {
  private isReading = false;
  private isClosed = false;

  constructor(private readonly site: ReadSite) {}

  /** Reads what waits, if anything does; where long work is under way its end asks for it again. */
  kick(): void {
    if (!this.isReading && !this.isClosed) void this.read();
  }

  close(): void {
    this.isClosed = true;
  }

  private async read(): Promise<void> {
    this.isReading = true;
    const release = this.site.hold();
    try {
      while (!this.isClosed && this.site.jobs.open().length === 0 && linksRead(this.site.db).unread > 0)
        if ((await this.site.writer.call("readLinks", undefined)) === 0) break;
    } catch (error) {
      // Whoever asks next has it tried again.
      if (!this.isClosed)
        log.warn({ event: "links-not-read", error: error instanceof Error ? error.message : String(error) });
    } finally {
      this.isReading = false;
      release();
    }
  }
}
