import { type Kind, kindIds } from "../../core/design/kinds";
import { type OutFileFormat } from "../../core/items/taken-out";
import { Refusal } from "../../core/refusal";
import {
  byteStream,
  extraLines,
  type OutFormat,
  type Outgoing,
  outgoingLines,
  outgoingSheet,
  refusedLines,
} from "../exchange/take-out";
import { LINK_COLUMNS, listLines, MOVE_COLUMNS } from "../exchange/list-lines";
import { type LinkFilter } from "../links/link-set";
import { type MovesFilter } from "../review/moves-view";
import { madeFile, type MadeFile } from "../exchange/out-files";
import { type RedirectForm } from "../../core/addresses/redirect-forms";
import { readSite } from "../../store/site";
import { needsRows } from "../exchange/table-files";
import { inFileThread } from "../sites/file-thread";
import { firstLook, type FirstLook } from "../exchange/bring-in";
import { writeLinesFile } from "../exchange/exchange-lines";
import { forgetFile, receiveFile } from "../exchange/uploads";
import { type KeywordsLook, lookAtKeywords } from "../keywords/bring-keywords";
import { siteState, type SiteState } from "../site/site-state";
import { type OpenedSite } from "../workspace/opened-site";
import { answer } from "./answer";
import { answerCall, answerWithin } from "./answer-call";
import { calls } from "./calls";

async function* redirectPieces(site: OpenedSite, form: RedirectForm, isCompact: boolean): AsyncGenerator<string> {
  yield* await site.proof.call("writtenRedirects", { form, isCompact });
}

/** A page waits so long for what it is drawn with, in ms. */
const AT_ONCE = 120;

/** What the routes hand requests about one site to. The site stays open as long as one of them is being answered. */
export class Api {
  constructor(private readonly site: OpenedSite) {}

  state(): SiteState {
    return siteState(this.site);
  }

  /** Answers what the interface asks by a call's name. */
  call(name: string, request: Request): Promise<Response> {
    return answerCall(calls, name, request, this.site, {
      held: (work) => this.held(work),
      watch: (told) => this.site.proof.watch(told),
    });
  }

  /** The answer to a call, `undefined` where it is not there within {@link AT_ONCE} ms. */
  answerAtOnce(name: string, input: unknown): Promise<unknown> {
    return answerWithin(calls, name, input, this.site, { held: (work) => this.held(work), ms: AT_ONCE });
  }

  private async held<T>(work: () => T | Promise<T>): Promise<T> {
    const release = this.site.hold();
    try {
      return await work();
    } finally {
      release();
    }
  }

  /** Lines as bytes; the site stays open until the last of them is out, or nobody wants them any more. */
  private stream(lines: Generator<string> | AsyncGenerator<string | Uint8Array>): ReadableStream<Uint8Array> {
    return byteStream(thenReleased(lines, this.site.hold()));
  }

  /** Receives a file of pages and takes a first look at it. */
  receivePages(body: ReadableStream<Uint8Array> | null, name: string): Promise<Response> {
    return answer(
      () =>
        lookedAt(
          body,
          "The file is empty. Choose a CSV file with a header row and at least one row below it.",
          async (token): Promise<FirstLook> => {
            if (await needsRows(token)) await inFileThread((files) => files.call("makeRows", { token, sheet: null }));
            return firstLook(this.site.db, token, name);
          },
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

  /** All redirects in a form, each in one hop or in as few rules as there can be. */
  takeOutRedirects(form: RedirectForm, isCompact: boolean): ReadableStream<Uint8Array> {
    return this.stream(redirectPieces(this.site, form, isCompact));
  }

  /** The links that a filter leaves. */
  takeOutLinks(format: OutFormat, filter: LinkFilter): ReadableStream<Uint8Array> {
    const stretchOf = async (from: number, count: number) => {
      const { links, total, version } = await this.site.proof.call("linkList", { ...filter, from, count });
      return { rows: links, total, version };
    };
    return this.stream(listLines(format, LINK_COLUMNS, stretchOf));
  }

  /** The moves that a filter leaves. */
  takeOutMoves(format: OutFormat, filter: MovesFilter): ReadableStream<Uint8Array> {
    const stretchOf = async (from: number, count: number) => {
      const { moves, total, version } = await this.site.proof.call("movesList", { ...filter, from, count });
      return { rows: moves, total, version };
    };
    return this.stream(listLines(format, MOVE_COLUMNS, stretchOf));
  }

  linesFile(): string {
    return writeLinesFile(this.site.db);
  }

  refusedRows(id: number): ReadableStream<Uint8Array> {
    return this.stream(refusedLines(this.site.db, id));
  }

  takeOut(what: Outgoing, format: OutFileFormat, run: number | null): ReadableStream<Uint8Array> {
    const { db } = this.site;
    return this.stream(format === "xlsx" ? outgoingSheet(db, what, run) : outgoingLines(db, what, format, run));
  }

  /** A file of pages that was made to be fetched. */
  madeFile(made: MadeFile): ReturnType<typeof madeFile> {
    return madeFile(this.site, made);
  }

  /** The extra texts of every page that has some, as lines of a file. */
  takeOutExtras(format: OutFileFormat): ReadableStream<Uint8Array> {
    if (format === "xlsx") throw new Refusal("invalid", "Extra texts are exported as CSV or JSON Lines.");
    const rowsOf = (kind: Kind, from: number, count: number) =>
      this.site.proof.call("extraRows", { kind, from, count });
    return this.stream(extraLines(format, kindIds(readSite(this.site.db)), rowsOf));
  }
}

async function* thenReleased(
  lines: Generator<string> | AsyncGenerator<string | Uint8Array>,
  release: () => void,
): AsyncGenerator<string | Uint8Array> {
  try {
    yield* lines;
  } finally {
    release();
  }
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
