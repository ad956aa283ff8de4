import { escapedAttribute } from "../core/text/tag-attributes";
import { type Db } from "../store/open";
import { seeded } from "./random";

/** A page that a note may link to. */
interface Target {
  readonly path: string;
  readonly name: string;
}

/** So many notes nobody links to. */
const ORPHANS = 10;
const HOST = "https://www.fennickdray.example";

/**
 * Puts links into the notes of the demo site, as they gather over years: to wares, to other notes and to what the catalogue once was;
 * with and without the host, relative, through redirects, to nothing, and such that say “click here”.
 */
export function linkDemoNotes(db: Db): void {
  const notes = db
    .prepare(
      `SELECT id, path, name, body FROM items JOIN bodies ON item_id = id
       WHERE kind = 'post' AND path LIKE '/notes/%' AND path NOT LIKE '/notes/%/%' ORDER BY id`,
    )
    .all() as (Target & { id: number; body: string })[];
  const wares = db
    .prepare("SELECT path, name FROM items WHERE kind = 'product' AND path IS NOT NULL ORDER BY id")
    .all() as Target[];
  const moved = db
    .prepare(
      "SELECT from_path AS path, name FROM redirects JOIN items ON '/catalogue' || path = from_path ORDER BY items.id",
    )
    .all() as Target[];
  if (notes.length === 0 || moved.length === 0) return;
  const random = seeded(notes.length);
  const put = db.prepare("UPDATE bodies SET body = ? WHERE item_id = ?");
  const lonely = Math.floor(notes.length / (ORPHANS + 1)) || 1;
  notes.forEach(({ id, body }, i) => {
    const next = (i + 1) % notes.length;
    // Each leads to the one behind it; ten are led past.
    const isPassed = next % lonely === lonely - 1 && next / lonely < ORPHANS;
    const note = notes[isPassed ? (next + 1) % notes.length : next]!;
    put.run(`${body}\n${paragraph(i, note, random.pick(wares), random.pick(moved))}`, id);
  });
}

function paragraph(i: number, note: Target, ware: Target, old: Target): string {
  const now = old.path.slice("/catalogue".length);
  const relative = note.path.slice("/notes/".length);
  const links = [
    `<a href="${i % 2 === 0 ? relative : note.path}">${escapedAttribute(note.name)}</a>`,
    `<a href="${i % 3 === 0 ? HOST : ""}${ware.path}">${escapedAttribute(ware.name)}</a>`,
  ];
  if (i % 4 === 1) links.push(`<a href="${old.path}">${escapedAttribute(old.name)}</a>`);
  if (i % 7 === 2) links.push(`<a class='more' href='${now}'>click here</a>`);
  if (i % 9 === 4) links.push(`<a href="/stock${now}-old">${escapedAttribute(old.name)}</a>`);
  if (i % 31 === 5) links.push(`<a href="/files/splicing-table.pdf">our splicing table</a>`);
  return `<p>See also: ${links.join(", ")}.</p>`;
}
