import { workerData } from "node:worker_threads";
import { type LiveRequest, proveLive } from "./live-proving";

// A thread for one kind of one site, which ends when it is through.
proveLive(workerData as LiveRequest);
