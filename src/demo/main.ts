import { existsSync } from "node:fs";
import { siteFile } from "../store/data-folder";
import { openStore } from "../store/open";
import { loadDemo } from "./load";

// Makes a demo site of any size: `npm run demo -- --items 100000`, named after its size.
const at = process.argv.indexOf("--items");
const products = at >= 0 ? Number(process.argv[at + 1]) : undefined;
if (products !== undefined && (!Number.isInteger(products) || products < 1 || products > 1_000_000)) {
  process.stderr.write("--items takes a whole number from 1 to 1000000\n");
  process.exit(2);
}
const file = siteFile(products === undefined ? "fennick-dray" : `fennick-dray-${products}`);
if (existsSync(file)) {
  process.stderr.write(`${file} is there already. Remove that site first, or set NINE_LINES_DATA to another folder.\n`);
  process.exit(1);
}
const db = openStore(file);
const made = loadDemo(db, {
  ...(products === undefined ? {} : { products }),
  progress: (items) => process.stderr.write(`\r${items.toLocaleString("en")} items`),
});
process.stderr.write("\n");
process.stdout.write(`${made.toLocaleString("en")} items in ${file}\n`);
db.close();
