import Database from "better-sqlite3";
import { join } from "node:path";
import { practicePort } from "../demo/practice-connections";
import { practiceToken } from "../demo/practice-token";
import { DEMO_SITE } from "../demo/site";
import { dataFolder, makeFolder } from "../store/data-folder";
import { fillPractice, plantDifferences } from "./fill";
import { PracticeSite } from "./practice-site";
import { PracticeStore } from "./practice-store";

// The practice site: `npm run practice`, on PRACTICE_PORT, else the port behind that of Nine Lines.
const port = practicePort();
if (!Number.isInteger(port) || port < 1 || port > 65_535) {
  process.stderr.write("PRACTICE_PORT takes a whole number from 1 to 65535\n");
  process.exit(2);
}
makeFolder(dataFolder());
const store = new PracticeStore(new Database(join(dataFolder(), "practice.db")));
if (store.count() === 0)
  process.stderr.write(
    `Filling the practice site: ${fillPractice(store).toLocaleString("en")} pages, ${plantDifferences(store)} of them edited since\n`,
  );
const base = `http://127.0.0.1:${port}`;
const server = new PracticeSite(store, { name: DEMO_SITE.name, base }, practiceToken(dataFolder())).server();
server.on("error", (error) => {
  process.stderr.write(`The practice site cannot listen on port ${port}: ${error.message}\n`);
  process.exit(1);
});
server.listen(port, "127.0.0.1", () => process.stdout.write(`Practice site: ${base}/_practice\n`));
for (const signal of ["SIGINT", "SIGTERM"] as const)
  process.on(signal, () => {
    server.close(() => {
      store.db.close();
      process.exit(0);
    });
    server.closeAllConnections();
  });
