import { databasePath, openStore } from "../store/open";
import { readSite } from "../store/site";
import { loadDemo } from "./load";

// Makes the demo site in an empty database: `npm run demo -- --items 100000`.
const at = process.argv.indexOf("--items");
const products = at >= 0 ? Number(process.argv[at + 1]) : undefined;
if (products !== undefined && (!Number.isInteger(products) || products < 1 || products > 1_000_000)) {
  process.stderr.write("--items takes a whole number from 1 to 1000000\n");
  process.exit(2);
}
const db = openStore(databasePath());
if (readSite(db)) {
  process.stderr.write(`${databasePath()} holds a site already. Set NINE_LINES_DB to a new file.\n`);
  process.exit(1);
}
const made = loadDemo(db, {
  ...(products === undefined ? {} : { products }),
  progress: (items) => process.stderr.write(`\r${items.toLocaleString("en")} items`),
});
process.stderr.write("\n");
process.stdout.write(`${made.toLocaleString("en")} items in ${databasePath()}\n`);
db.close();
