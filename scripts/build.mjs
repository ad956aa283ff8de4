// Bundles and pages, where their sources changed: what the browser tests run on.
import { ensureBundles, ensurePackages, ensurePages } from "./setup.mjs";

ensurePackages();
await ensureBundles();
await ensurePages();
