import { afterEach } from "vitest";
import { openPages } from "./app";

/** So much of a page is told of a test that failed. */
const MOST_TOLD = 1200;

// What stands on the screens says more than what was waited for in vain.
afterEach(async ({ task }) => {
  if (task.result?.state !== "fail") return;
  for (const page of openPages()) {
    const text = await page
      .locator("body")
      .innerText({ timeout: 2000 })
      .catch(() => "(no answer)");
    console.error(`${page.url()}\n${text.replace(/\s*\n\s*/g, " | ").slice(0, MOST_TOLD)}\n`);
  }
});
