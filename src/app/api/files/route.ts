import { type NextRequest } from "next/server";
import { backend } from "../../../server/backend-handle";
import { answer } from "../answer";

/** Receives a file as the request's body and takes a first look at it. */
export function POST(request: NextRequest): Promise<Response> {
  return answer(async () => {
    const name = request.nextUrl.searchParams.get("name") ?? "file.csv";
    if (!request.body)
      throw new Error("The file is empty. Choose a CSV file with a header row and at least one row below it.");
    return backend().receive(request.body, name);
  });
}
