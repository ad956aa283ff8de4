import { createReadStream, rmSync, statSync } from "node:fs";
import { Readable } from "node:stream";
import { type Api } from "../api/api";
import { answer, failure } from "../api/answer";
import { answerCall } from "../api/answer-call";
import { type SiteState } from "../site/site-state";
import { sitesCalls } from "./calls";
import { listSites, type SiteList, takeInSite, takeOutSite } from "./site-cases";
import { type Sites } from "./sites";

/** What the routes hand requests to: those about all sites, and the way to one. */
export class SitesApi {
  constructor(private readonly sites: Sites) {}

  list(): SiteList {
    return listSites(this.sites);
  }

  /** What is asked of all sites together, by a call's name. */
  call(name: string, request: Request): Promise<Response> {
    return answerCall(sitesCalls, name, request, this.sites, { held: (work) => work(), watch: () => () => {} });
  }

  /** A site's state, or why it cannot be opened, in words. */
  async state(id: string): Promise<{ readonly state: SiteState } | { readonly trouble: string }> {
    try {
      return { state: (await this.sites.api(id)).state() };
    } catch (error) {
      const { body } = failure(error, "open a site");
      return { trouble: "error" in body ? body.error : "The site is busy. Try again." };
    }
  }

  /** What a screen asks for as it opens, if the answer is there at once; otherwise, and where it is a trouble, the screen asks itself. */
  async answerAtOnce(id: string, name: string, input: unknown): Promise<unknown> {
    try {
      return await (await this.sites.api(id)).answerAtOnce(name, input);
    } catch {
      return undefined;
    }
  }

  /** Lets a site's own API answer; where there is no such site, or it cannot be opened, the answer says so. */
  async answer(id: string, work: (api: Api) => Response | Promise<Response>): Promise<Response> {
    let api: Api;
    try {
      api = await this.sites.api(id);
    } catch (error) {
      return answer(() => Promise.reject(error as Error), "open a site");
    }
    return work(api);
  }

  /** A site whole, as one file. */
  async takeOut(id: string): Promise<Response> {
    let file: string;
    try {
      file = await takeOutSite(id);
    } catch (error) {
      return answer(() => Promise.reject(error as Error), "export a site");
    }
    const stream = createReadStream(file);
    stream.on("close", () => rmSync(file, { force: true }));
    return new Response(Readable.toWeb(stream) as ReadableStream<Uint8Array<ArrayBuffer>>, {
      headers: {
        "content-type": "application/vnd.sqlite3",
        "content-length": String(statSync(file).size),
        "content-disposition": `attachment; filename="${id}.nine-lines.db"`,
      },
    });
  }

  /** Receives a site's file and makes it a site here. */
  receive(body: ReadableStream<Uint8Array> | null): Promise<Response> {
    return answer(() => takeInSite(body), "receive a site");
  }
}
