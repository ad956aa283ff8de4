// Installs the programs that tests run with and that are missing: the browser, the web servers.
import { ensureChromium, ensureWebServers } from "./setup.mjs";

ensureChromium();
ensureWebServers();
