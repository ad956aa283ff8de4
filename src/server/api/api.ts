import { setTimeout } from "node:timers/promises";
import { Refusal } from "../../core/refusal";
import {
  extraLines,
  type OutFormat,
  type Outgoing,
  outgoingLines,
  refusedLines,
  textStream,
} from "../exchange/take-out";
import { firstLook, type FirstLook } from "../exchange/bring-in";
import { writeLinesFile } from "../exchange/exchange-lines";
import { forgetFile, receiveFile } from "../exchange/uploads";
import { type KeywordsLook, lookAtKeywords } from "../keywords/bring-keywords";
import { readSite } from "../../store/site";
import { siteState, type SiteState } from "../site/site-state";
import { type OpenedSite } from "../workspace/opened-site";
import { answer, answerInPieces, PIECES } from "./answer";
import { calls } from "./calls";
import { type Asking, type Endpoint } from "./endpoint";

/** What the routes hand requests to. */
export class Api {
  constructor(private readonly site: OpenedSite) {}

  state(): SiteState {
    return siteState(this.site);
  }

  /** Answers what the interface asks by a call's name. */
  call(name: string, request: Request): Promise<Response> | Response {
    const endpoint = endpointNamed(name);
    if (!endpoint)
      return answer(() => {
        throw new Refusal("not-found", `There is no call “${name}”`);
      }, name);
    const client = (request.headers.get("x-client") ?? "").slice(0, 60);
    const work = async (progress: Asking["progress"]) => {
      const input: unknown = endpoint.input.parse(await request.json());
      return endpoint.run(this.site, input, { signal: request.signal, progress, client });
    };
    if (endpoint.inPieces) return answerInPieces(work, name);
    const quick = () => work(() => {});
    return request.headers.get("accept")?.includes(PIECES) ? this.answerSoon(quick, name) : answer(quick, name);
  }

  /** Answers at once where that is possible; what takes longer, since others are before it, says meanwhile what it waits for. */
  private async answerSoon(work: () => Promise<unknown>, name: string): Promise<Response> {
    const working = work();
    const isLate = await Promise.race([working.then(isDone, isDone), setTimeout(PATIENCE, true, { ref: false })]);
    if (!isLate) return answer(() => working, name);
    const watched = (progress: Asking["progress"]) => working.finally(this.site.proof.watch(progress));
    return answerInPieces(watched, name, true);
  }

  /** Receives a file of pages and takes a first look at it. */
  receivePages(body: ReadableStream<Uint8Array> | null, name: string): Promise<Response> {
    return answer(
      () =>
        lookedAt(
          body,
          "The file is empty. Choose a CSV file with a header row and at least one row below it.",
          (token): Promise<FirstLook> => firstLook(token, name, readSite(this.site.db)?.language ?? "en"),
        ),
      "receive pages",
    );
  }

  /** Receives a list of keywords and takes a first look at it. */
  receiveKeywords(body: ReadableStream<Uint8Array> | null): Promise<Response> {
    return answer(
      () =>
        lookedAt(body, "There is nothing in it. Choose a file, or paste keywords.", (token): Promise<KeywordsLook> =>
          lookAtKeywords(token),
        ),
      "receive keywords",
    );
  }

  linesFile(): string {
    return writeLinesFile(this.site.db);
  }

  refusedRows(id: number): ReadableStream<Uint8Array> {
    return textStream(refusedLines(this.site.db, id));
  }

  takeOut(what: Outgoing, format: OutFormat, run: number | null): ReadableStream<Uint8Array> {
    return textStream(outgoingLines(this.site.db, what, format, run));
  }

  /** The extra texts of every page that has some, as lines of a file. */
  takeOutExtras(format: OutFormat): ReadableStream<Uint8Array> {
    const rowsOf = (kind: Parameters<Parameters<typeof extraLines>[1]>[0], from: number, count: number) =>
      this.site.proof.call("extraRows", { kind, from, count });
    return textStream(extraLines(format, rowsOf));
  }
}

/** A call that is not answered after so many ms says what it waits for. */
const PATIENCE = 400;

const isDone = () => false;

type AnyEndpoint = Endpoint<import("zod").ZodType, unknown>;

function endpointNamed(name: string): AnyEndpoint | null {
  const [room = "", own = ""] = name.split(".");
  if (!Object.hasOwn(calls, room)) return null;
  const ofRoom = calls[room as keyof typeof calls] as unknown as Record<string, AnyEndpoint>;
  return Object.hasOwn(ofRoom, own) ? ofRoom[own]! : null;
}

/** Receives a file and looks at it; one that cannot be used is not kept. */
async function lookedAt<T>(
  body: ReadableStream<Uint8Array> | null,
  empty: string,
  look: (token: string) => Promise<T>,
): Promise<T> {
  if (!body) throw new Refusal("invalid", empty);
  const token = await receiveFile(body);
  try {
    return await look(token);
  } catch (error) {
    forgetFile(token);
    throw error;
  }
}
