import { createReadStream } from "node:fs";
import { StringDecoder } from "node:string_decoder";

/** The lines of a UTF-8 file, ended by LF or CRLF alone: other line breaks may stand inside of a JSON text. */
export async function* textLines(file: string): AsyncGenerator<string> {
  const decoder = new StringDecoder("utf8");
  let rest = "";
  for await (const piece of createReadStream(file) as AsyncIterable<Buffer>) {
    const lines = (rest + decoder.write(piece)).split("\n");
    rest = lines.pop()!;
    for (const line of lines) yield line.endsWith("\r") ? line.slice(0, -1) : line;
  }
  rest += decoder.end();
  if (rest !== "") yield rest;
}
