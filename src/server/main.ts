import compression from "compression";
import { createServer } from "node:http";
import next from "next";
import { siteIds, sitesFolder } from "../store/data-folder";
import { lockForServer, StoreError } from "../store/open";
import { provideApi } from "./api-handle";
import { putSecurityHeaders } from "./guard/headers";
import { allowedHosts, isOwnRequest, refusalToListen } from "./guard/hosts";
import { cleanUploads, KEPT_FOR_MS } from "./exchange/uploads";
import { openSite } from "./open-site";
import { staticFiles } from "./static-files";
import { backUpDue, makeDemo } from "./sites/site-cases";
import { dropHalfMade, dropOldSites, lastUsed, moveOldDatabase, removedSites } from "./sites/site-files";
import { Sites } from "./sites/sites";
import { SitesApi } from "./sites/sites-api";
import { filesWanted } from "./sites/wanted-files";

const HOUR_MS = 3600 * 1000;
/** How often it is looked whether a run's time has come. */
const LOOK_FOR_DUE_MS = 5000;
/** Sites that are due are not backed up while the server begins. */
const FIRST_BACKUP_MS = 5 * 60 * 1000;
const port = Number(process.env["PORT"] ?? 4909);
const host = process.env["HOST"] ?? "127.0.0.1";
const allowed = allowedHosts(host, process.env["NINE_LINES_HOSTS"]);
const compress = compression({ threshold: 1024 });

/** Removes received files that no job of any site waits for, older than so many ms; a day old where that is not sure. */
function tidyUploads(olderThan: number): void {
  const { tokens, isSure } = filesWanted();
  cleanUploads(tokens, isSure ? olderThan : KEPT_FOR_MS);
}

async function main(): Promise<void> {
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new StoreError(`PORT is “${process.env["PORT"]}”; it takes a number from 1 to 65535.`);
  const refusal = refusalToListen(host, process.argv.includes("--open-to-all"));
  if (refusal !== null) throw new StoreError(refusal);
  const unlock = lockForServer(sitesFolder());
  dropHalfMade();
  dropOldSites();
  moveOldDatabase();
  if (siteIds().length === 0 && removedSites().length === 0) {
    process.stdout.write("Creating the demo site …\n");
    await makeDemo();
  }
  tidyUploads(0);
  setInterval(() => tidyUploads(KEPT_FOR_MS), HOUR_MS).unref();
  setInterval(() => dropOldSites(), HOUR_MS).unref();
  setTimeout(() => void backUpDue(), FIRST_BACKUP_MS).unref();
  setInterval(() => void backUpDue(), HOUR_MS).unref();
  const sites = new Sites(openSite);
  provideApi(new SitesApi(sites));
  setInterval(() => void sites.beginDue(), LOOK_FOR_DUE_MS).unref();
  const app = next({ dev: false, dir: process.cwd(), hostname: host, port });
  await app.prepare();
  const handle = app.getRequestHandler();
  const serveStatic = staticFiles(".next/static");
  const server = createServer((request, response) => {
    putSecurityHeaders(request, response);
    const { host: asked, origin } = request.headers;
    if (!isOwnRequest({ method: request.method ?? "GET", host: asked, origin }, allowed)) {
      response
        .writeHead(403, { "content-type": "text/plain; charset=utf-8" })
        .end("Requests from other sites are refused.");
      return;
    }
    if (serveStatic(request, response)) return;
    compress(request as never, response as never, () => void handle(request, response));
  });
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    server.closeAllConnections();
    server.close(() => void sites.closeAll().then(() => (unlock(), process.exit(0))));
  };
  process.on("SIGINT", stop);
  process.on("SIGTERM", stop);
  server.on("error", (error: NodeJS.ErrnoException) => {
    process.stderr.write(
      error.code === "EADDRINUSE"
        ? `Port ${port} is in use. Set PORT to another one, such as PORT=${port + 1} npm start\n`
        : `The server cannot listen: ${error.message}\n`,
    );
    process.exit(1);
  });
  server.listen(port, host, () => {
    const address = server.address();
    const bound = typeof address === "object" && address ? address.port : port;
    process.stdout.write(`Nine Lines is ready at http://${host}:${bound}\n`);
    const latest = lastUsed();
    if (latest !== null) void sites.warm(latest);
  });
}

main().catch((error: unknown) => {
  process.stderr.write(
    `${error instanceof StoreError ? error.message : error instanceof Error ? (error.stack ?? error.message) : String(error)}\n`,
  );
  process.exit(1);
});
