import flat from "./connections/flat.connection.json";
import nested from "./connections/nested.connection.json";

/** The port of the practice site: `PRACTICE_PORT`, else the one behind that of Nine Lines. */
export function practicePort(): number {
  return Number(process.env["PRACTICE_PORT"] ?? Number(process.env["PORT"] ?? 4909) + 1);
}

/** How the practice site on this machine is spoken to, in both of its shapes: connection files. */
export function practiceConnections(): { readonly name: string; readonly description: string }[] {
  const base = `http://127.0.0.1:${practicePort()}`;
  return [flat, nested].map((file) => ({
    name: file.name,
    description: `${JSON.stringify({ ...file, base: file.base.replace(file.visitors, base), visitors: base }, null, 2)}\n`,
  }));
}
