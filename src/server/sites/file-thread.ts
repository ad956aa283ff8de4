import { join } from "node:path";
import { WorkerClient } from "../threads/worker-client";
import { type FileWork } from "./file-work";

/** Does work with files in a thread of its own, which ends with it: the server answers meanwhile. */
export async function inFileThread<T>(work: (files: WorkerClient<FileWork>) => Promise<T>): Promise<T> {
  const files = new WorkerClient<FileWork>(join(process.cwd(), "dist", "files-worker.mjs"), {
    name: "the thread that works with files",
    data: () => ({}),
  });
  try {
    return await work(files);
  } finally {
    await files.close();
  }
}
