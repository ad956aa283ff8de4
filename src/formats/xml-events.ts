import { SaxesParser } from "saxes";
import { TableError } from "./table";

/** What goes by while XML is read: an element's begin with its attributes, text, an element's end. Names are without their prefixes. */
export interface XmlListener {
  readonly open: (name: string, attributes: Readonly<Record<string, string>>) => void;
  readonly text?: (text: string) => void;
  readonly close?: (name: string) => void;
}

/**
 * Reads XML piece by piece. After each piece the caller gets its turn, so that what came up can be handed on.
 *
 * @throws {TableError} where it is not well-formed; entities of its own are none that this reads.
 */
export async function* readXml(
  pieces: AsyncIterable<string>,
  part: string,
  listener: XmlListener,
): AsyncGenerator<void> {
  const parser = new SaxesParser();
  let failure: Error | null = null;
  parser.on("error", (error) => (failure ??= error));
  parser.on("opentag", ({ name, attributes }) =>
    listener.open(bare(name), bareNames(attributes as Record<string, string>)),
  );
  parser.on("text", (text) => listener.text?.(text));
  parser.on("cdata", (text) => listener.text?.(text));
  parser.on("closetag", ({ name }) => listener.close?.(bare(name)));
  const check = () => {
    if (failure) throw new TableError(`The spreadsheet is damaged in “${part}”: ${failure.message}. Save it again.`);
  };
  for await (const piece of pieces) {
    parser.write(piece);
    check();
    yield;
  }
  parser.close();
  check();
}

/** The same where nothing is handed on before its end. */
export async function seeXml(pieces: AsyncIterable<string>, part: string, listener: XmlListener): Promise<void> {
  for await (const _ of readXml(pieces, part, listener));
}

function bare(name: string): string {
  return name.slice(name.indexOf(":") + 1);
}

function bareNames(attributes: Record<string, string>): Record<string, string> {
  const own: Record<string, string> = {};
  for (const name in attributes) own[bare(name)] = attributes[name]!;
  return own;
}
