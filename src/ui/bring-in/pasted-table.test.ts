import { describe, expect, it } from "vitest";
import { tableFile } from "./pasted-table";

describe("what is pasted", () => {
  it("is a table where tabs part its cells and there is a row below its header", async () => {
    const table = "id\tname\r\n1\tRope, „hawser“\r\n";
    const file = tableFile(table)!;
    expect([await file.text(), file.name]).toEqual([table, "pasted table.tsv"]);
  });

  it.each(["", "id", "id\tname", "id\tname\n  \n", "id,name\n1,Rope"])("is none with %j", (text) =>
    expect(tableFile(text)).toBeNull(),
  );
});
