import { workerData } from "node:worker_threads";
import { serveWorker } from "../threads/serve-worker";
import { fileWork } from "./file-work";

serveWorker(fileWork, (workerData as { stop: Int32Array }).stop);
