import { practiceConnections } from "../../demo/practice-connections";
import { practiceToken } from "../../demo/practice-token";
import { readConnection } from "../../core/connection/connection-file";
import { dataFolder, siteFile } from "../../store/data-folder";
import { openStore } from "../../store/open";
import { writeConnection } from "../../store/wire";
import { writeSecret } from "./secrets";

/** Connects the demo site with the practice site, which has its pages. */
export function connectDemo(id: string): void {
  const { description } = practiceConnections()[0]!;
  const connection = readConnection(description);
  const db = openStore(siteFile(id));
  try {
    writeConnection(db, description, connection.write !== undefined, new Date().toISOString());
  } finally {
    db.close();
  }
  writeSecret(siteFile(id), connection.base, practiceToken(dataFolder()));
}
